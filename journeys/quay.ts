/** A made-up plate: a quay of boards under a dusk sky, as a camera of known make sees it. */
import { encode } from 'fast-png';

/** The camera: focal length in half widths of the picture, tilt and turn to the boards, height in metres. */
export const QUAY = { focal: 1.1, tilt: 0.21, turn: 0.35, height: 0.6, width: 960, height_px: 540 };

type Vec = readonly [number, number, number];

const { cos, sin } = Math;

/** Where a place of the quay is in the picture: across and up from its middle, in half widths. */
export function seen([x, y, z]: Vec): [number, number] {
  const { focal, tilt, turn, height } = QUAY;
  const [rx, rz] = [cos(turn) * x - sin(turn) * z, sin(turn) * x + cos(turn) * z];
  const ry = y - height;
  const depth = -(rz * cos(tilt)) - ry * sin(tilt);
  const up = ry * cos(tilt) - rz * sin(tilt);
  return [(focal * rx) / depth, (focal * up) / depth];
}

/** The plate as a PNG file. */
export function quay(): Buffer {
  const { focal, tilt, turn, height, width, height_px } = QUAY;
  const data = new Uint8Array(width * height_px * 3);
  for (let py = 0; py < height_px; py++)
    for (let px = 0; px < width; px++) {
      const [u, v] = [(px + 0.5 - width / 2) / (width / 2), (height_px / 2 - py - 0.5) / (width / 2)];
      const [dx, dy, dz] = [
        u / focal,
        (v / focal) * cos(tilt) - sin(tilt),
        -cos(tilt) - (v / focal) * sin(tilt),
      ];
      let rgb = [0.5, 0.45, 0.6];
      if (dy < -0.02) {
        const t = height / -dy;
        const [x, z] = [(cos(turn) * dx + sin(turn) * dz) * t, (cos(turn) * dz - sin(turn) * dx) * t];
        const board = Math.floor(x / 0.25);
        const seam =
          Math.abs((((x / 0.25) % 1) + 1) % 1) < 0.04 ||
          Math.abs((((z / 1.2 + board * 0.4) % 1) + 1) % 1) < 0.01;
        const grey = seam ? 0.2 : 0.45 + 0.05 * (((board % 3) + 3) % 3);
        rgb = [grey, grey * 0.9, grey * 0.75];
      }
      for (let c = 0; c < 3; c++) data[(py * width + px) * 3 + c] = Math.round(rgb[c]! * 255);
    }
  return Buffer.from(encode({ width, height: height_px, channels: 3, data }));
}
