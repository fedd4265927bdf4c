/**
 * Reflectance over angle, by the code that the tracer compiles finishes with. Dragging it moves what gives
 * the reflectance facing the viewer: the colour of a plain metal, the index of everything else.
 */
import { line, scaleLinear } from 'd3';
import { useMemo, useRef, useState } from 'react';
import { toHex } from '@wemlox/core/maths/colour';
import type { Finish } from '@wemlox/core/document';
import { reflectanceAt } from '@wemlox/core/finish/reflectance';
import { setReflectance } from '@wemlox/core/edits';
import { perform } from '../../state/studio.ts';

const WIDTH = 300;
const HEIGHT = 96;
const POINTS = 91;
const CHANNELS = ['#e38a86', '#8fc79a', '#8fa3dc'];

export function Curve({ finish }: { finish: Finish }) {
  const { surface } = finish;
  const [angle, setAngle] = useState<number | null>(null);
  const box = useRef<SVGSVGElement>(null);
  const x = scaleLinear([0, 90], [0, WIDTH]);
  const y = scaleLinear([0, 1], [HEIGHT - 2, 2]);
  const curves = useMemo(() => {
    const at = Array.from({ length: POINTS }, (_, i) =>
      reflectanceAt(surface, Math.cos((i * Math.PI) / 180)),
    );
    return [0, 1, 2].map((c) => at.map((rgb) => rgb[c]));
  }, [surface]);
  const path = line<number>(
    (_, i) => x(i),
    (v) => y(v),
  );
  const measured = surface.base_metal !== 'none' && surface.base_metalness === 1;
  const shown = angle ?? 0;
  const here = curves.map((c) => c[Math.round(shown)]);

  const drag = (event: React.PointerEvent) => {
    const { left, top, width, height } = box.current!.getBoundingClientRect();
    setAngle(Math.min(90, Math.max(0, ((event.clientX - left) / width) * 90)));
    if (measured || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const wanted = Math.min(0.999, Math.max(0.001, 1 - (event.clientY - top) / height));
    if (surface.base_metalness > 0.5) {
      const peak = Math.max(...surface.base_color, 1e-3);
      const base_color = surface.base_color.map((v) => Math.min(1, (v / peak) * wanted));
      perform((p) => setReflectance(p, finish.id, { base_color, base_weight: 1 }));
    } else {
      const root = Math.sqrt(Math.min(0.25, wanted));
      const specular_ior = Number(Math.min(3, (1 + root) / (1 - root)).toFixed(3));
      perform((p) => setReflectance(p, finish.id, { specular_ior }));
    }
  };
  return (
    <figure>
      <figcaption className="quiet flex justify-between pb-1 text-xs">
        <span>
          {angle === null
            ? 'Reflectance over angle'
            : `${angle.toFixed(0)}°: ${here.map((v) => `${(v * 100).toFixed(0)} %`).join(' ')}`}
        </span>
        <span>facing → grazing</span>
      </figcaption>
      <svg
        ref={box}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className={`w-full touch-none ${measured ? '' : 'cursor-ns-resize'}`}
        role="img"
        aria-label={`Reflectance facing ${here.map((v) => (v * 100).toFixed(0)).join(', ')} percent red, green, blue${measured ? ', measured' : ', drag to change'}`}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          drag(e);
        }}
        onPointerMove={drag}
        onPointerLeave={() => setAngle(null)}
      >
        {[0, 0.25, 0.5, 0.75, 1].map((v) => (
          <line key={v} x1={0} x2={WIDTH} y1={y(v)} y2={y(v)} stroke="var(--line)" />
        ))}
        {curves.map((c, i) => (
          <path key={i} d={path(c)!} fill="none" stroke={CHANNELS[i]} strokeWidth={1.5} />
        ))}
        {angle !== null && (
          <line
            x1={x(angle)}
            x2={x(angle)}
            y1={0}
            y2={HEIGHT}
            stroke="var(--color-primary)"
            strokeDasharray="2 2"
          />
        )}
      </svg>
      <div className="mt-1 flex h-2.5" aria-hidden>
        {Array.from({ length: 30 }, (_, i) => (
          <div key={i} className="flex-1" style={{ background: toHex(curves.map((c) => c[i * 3])) }} />
        ))}
      </div>
      {measured && (
        <p className="quiet pt-1 text-xs">Measured metal: its curve follows from its refractive index.</p>
      )}
    </figure>
  );
}
