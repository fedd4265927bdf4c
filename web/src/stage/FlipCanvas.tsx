/** The flip-book on the stage: its picture of the time looked at, where there is one. */
import { useEffect, useRef } from 'react';
import { FlipBook } from '../engine/flipBook.ts';
import { flipAt, useFlip } from '../state/flip.ts';
import { useStudio } from '../state/studio.ts';
import { useFrame } from '../state/time.ts';

export function FlipCanvas({ place }: { place: React.CSSProperties }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const on = useFlip((f) => f.on);
  const frame = useFrame();
  // asked again when the document or the flip-book changes
  useStudio((s) => s.project);
  useFlip((f) => f.pictures);
  const picture = flipAt(frame);
  // other steps have the stage to themselves
  useEffect(() => () => useFlip.setState({ on: false }), []);
  useEffect(() => {
    if (!on) return;
    const book = new FlipBook();
    return () => book.end();
  }, [on]);
  useEffect(() => {
    const { current } = canvas;
    if (!current || !picture) return;
    const { width, height } = picture.image;
    if (current.width !== width || current.height !== height) Object.assign(current, { width, height });
    current.getContext('2d')!.putImageData(picture.image, 0, 0);
  }, [picture]);
  if (!on) return null;
  return (
    <canvas
      ref={canvas}
      className="hatched pointer-events-none absolute bg-base-200"
      style={{ ...place, visibility: picture ? 'visible' : 'hidden' }}
      data-testid="flip"
      data-samples={picture?.samples ?? 0}
    />
  );
}
