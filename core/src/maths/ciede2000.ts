/** Colours as they are seen apart: CIELAB under D65, and CIEDE2000 (CIE 142-2001; Sharma, Wu & Dalal 2005). */
export type Lab = readonly [lightness: number, a: number, b: number];

const WHITE = [0.95047, 1, 1.08883];

/** CIELAB of an sRGB colour, 0 … 255 a channel. */
export function labOf(srgb: readonly number[]): Lab {
  const [r, g, b] = srgb.map((byte) => {
    const v = byte / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  });
  const xyz = [
    0.4124564 * r + 0.3575761 * g + 0.1804375 * b,
    0.2126729 * r + 0.7151522 * g + 0.072175 * b,
    0.0193339 * r + 0.119192 * g + 0.9503041 * b,
  ];
  const [x, y, z] = xyz.map((v, i) => {
    const t = v / WHITE[i];
    return t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116;
  });
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

const DEGREE = Math.PI / 180;
const hueOf = (a: number, b: number) => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) / DEGREE + 360) % 360);

/** Difference of two colours; one is just seen. */
export function ciede2000([l1, a1, b1]: Lab, [l2, a2, b2]: Lab): number {
  const mean = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
  const g = 0.5 * (1 - Math.sqrt(mean ** 7 / (mean ** 7 + 25 ** 7)));
  const [x1, x2] = [a1 * (1 + g), a2 * (1 + g)];
  const [c1, c2] = [Math.hypot(x1, b1), Math.hypot(x2, b2)];
  const [h1, h2] = [hueOf(x1, b1), hueOf(x2, b2)];
  const grey = c1 * c2 === 0;
  const turn = grey ? 0 : ((h2 - h1 + 540) % 360) - 180;
  const dh = 2 * Math.sqrt(c1 * c2) * Math.sin((turn / 2) * DEGREE);
  const l = (l1 + l2) / 2;
  const c = (c1 + c2) / 2;
  const far = Math.abs(h1 - h2) > 180;
  const h = grey ? h1 + h2 : (h1 + h2 + (far ? (h1 + h2 < 360 ? 360 : -360) : 0)) / 2;
  const t =
    1 -
    0.17 * Math.cos((h - 30) * DEGREE) +
    0.24 * Math.cos(2 * h * DEGREE) +
    0.32 * Math.cos((3 * h + 6) * DEGREE) -
    0.2 * Math.cos((4 * h - 63) * DEGREE);
  const sl = 1 + (0.015 * (l - 50) ** 2) / Math.sqrt(20 + (l - 50) ** 2);
  const sc = 1 + 0.045 * c;
  const sh = 1 + 0.015 * c * t;
  const rt =
    -2 * Math.sqrt(c ** 7 / (c ** 7 + 25 ** 7)) * Math.sin(60 * DEGREE * Math.exp(-(((h - 275) / 25) ** 2)));
  const [p, q, r] = [(l2 - l1) / sl, (c2 - c1) / sc, dh / sh];
  return Math.sqrt(p * p + q * q + r * r + rt * q * r);
}
