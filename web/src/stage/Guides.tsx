/** Lines over the picture to place things by; they go with the handles, and are in no picture. */
import { useChoice, useHandles } from '../state/choice.ts';

interface Place {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Shares of the picture that every screen shows: for what happens, and for what is read (EBU R 95). */
const SAFE = [0.035, 0.05];

export function Guides({ place }: { place: Place }) {
  const guides = useChoice((c) => c.guides);
  const margin = useChoice((c) => c.margin);
  const handles = useHandles();
  if (!handles || guides.length === 0) return null;
  const { width: w, height: h } = place;
  const frame = (x: number, y: number) => ({ x: x, y: y, width: w - 2 * x, height: h - 2 * y });
  const own = margin * Math.min(w, h);
  return (
    <svg
      className="pointer-events-none absolute"
      // seen on light and on dark
      style={{ ...place, mixBlendMode: 'difference' }}
      viewBox={`0 0 ${w} ${h}`}
      data-testid="guides"
      aria-hidden="true"
      fill="none"
      stroke="#fff"
      strokeOpacity={0.55}
    >
      {guides.includes('thirds') &&
        [1 / 3, 2 / 3].map((s) => <path key={s} d={`M${w * s} 0V${h}M0 ${h * s}H${w}`} />)}
      {guides.includes('middle') && <path d={`M${w / 2} 0V${h}M0 ${h / 2}H${w}`} strokeDasharray="6 4" />}
      {guides.includes('safe') && SAFE.map((s) => <rect key={s} {...frame(w * s, h * s)} />)}
      {guides.includes('margin') && <rect {...frame(own, own)} strokeDasharray="2 3" />}
    </svg>
  );
}
