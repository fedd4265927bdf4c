/** The faces of the row under the pointer, in the chart or among the sightlines, as they stand in the picture. */
import { useEffect, useRef } from 'react';
import { rowKey, useLightChart, useRowHover } from '../state/light.ts';

/** Red, green, blue and cover it is drawn with. */
const MARK = [127, 224, 184, 80];

export function RowMark({ place }: { place: { left: number; top: number; width: number; height: number } }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const counted = useLightChart((l) => l.counted);
  const hovered = useRowHover((h) => h.row);
  const row = counted?.rows.findIndex((r) => rowKey(r) === hovered) ?? -1;
  useEffect(() => {
    if (row < 0 || !counted) return;
    const { across, down, rows } = counted.mask;
    const data = new Uint8ClampedArray(across * down * 4);
    for (let i = 0; i < rows.length; i++) if (rows[i] === row) data.set(MARK, i * 4);
    canvas.current!.getContext('2d')!.putImageData(new ImageData(data, across, down), 0, 0);
  }, [counted, row]);
  if (row < 0 || !counted) return null;
  return (
    <canvas
      ref={canvas}
      width={counted.mask.across}
      height={counted.mask.down}
      data-testid="row-mark"
      aria-hidden="true"
      className="pointer-events-none absolute"
      style={place}
    />
  );
}
