/** Small traced pictures, and when they are worth tracing. */
import { useEffect, useRef, useState } from 'react';
import { useCellPicture } from '../engine/cells.ts';

/** A traced picture once it is there; the place stays empty until then. */
export function CellPicture({ cellKey, className }: { cellKey: string; className?: string }) {
  const picture = useCellPicture(cellKey);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!picture || !canvas.current) return;
    Object.assign(canvas.current, { width: picture.width, height: picture.height });
    canvas.current.getContext('2d')!.putImageData(picture, 0, 0);
  }, [picture]);
  return (
    <canvas ref={canvas} data-traced={picture ? 'yes' : 'no'} className={className} width={1} height={1} />
  );
}

/** Whether an element can be seen, for pictures that are only traced then. */
export function useSeen<T extends Element>() {
  const ref = useRef<T>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const watch = new IntersectionObserver(([entry]) => setSeen(entry.isIntersecting));
    watch.observe(ref.current!);
    return () => watch.disconnect();
  }, []);
  return [ref, seen] as const;
}
