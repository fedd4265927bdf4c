/** A kept proof from its linear film: under the present grade, or as its difference from another or the present. */
import { useEffect, useRef } from 'react';
import type { Grade } from '@wemlox/core/document';
import { engine } from '../engine/engine.ts';
import { useChoice, useCompared } from '../state/choice.ts';
import { useShown } from '../state/shown.ts';

export function ProofCanvas({
  film,
  against,
  grade,
  label,
}: {
  film: string;
  /** Film of another proof; null for the present; undefined shows the proof itself. */
  against?: string | null;
  grade: Grade;
  label: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const amplify = useChoice((c) => (against === undefined ? 0 : c.amplify));
  // the present goes on being traced: its difference goes with it
  const samples = useShown((v) => (against === null && v.fresh ? v.samples : 0));
  const { exposure } = grade;
  const shown = JSON.stringify(grade);
  useEffect(() => {
    let ended = false;
    void engine()
      ?.proofs({ film, against, grade: { ...(JSON.parse(shown) as Grade), exposure: exposure + amplify } })
      .then(
        ({ pixels, width, height, mean }) => {
          if (ended || !canvas.current) return;
          Object.assign(canvas.current, { width, height });
          canvas.current.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
          canvas.current.dataset.shown = against === undefined ? 'proof' : 'difference';
          useCompared.setState({ mean, problem: '' });
        },
        (error: Error) => !ended && useCompared.setState({ mean: null, problem: error.message }),
      );
    return () => {
      ended = true;
    };
  }, [film, against, shown, exposure, amplify, samples]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      data-testid="proof-canvas"
      className="absolute inset-0 h-full w-full object-contain"
    />
  );
}
