/** Whether the shot closes: what its values jump by from the last picture to the first, beside what they do elsewhere. */
import { useMemo } from 'react';
import type { Shot } from '@wemlox/core/document';
import { motionName } from '@wemlox/core/edits';
import { seams } from '@wemlox/core/motion/seams';
import { useStudio } from '../../state/studio.ts';

export function SeamMark({ shot }: { shot: Shot }) {
  const project = useStudio((s) => s.project);
  const open = useMemo(() => seams(project, shot.id), [project, shot.id]);
  if (!shot.loops || shot.tracks.length + shot.moves.length === 0) return null;
  return open.length === 0 ? (
    <span className="quiet text-xs">the loop closes</span>
  ) : (
    <span
      className="rounded-xs bg-warning px-1.5 text-xs text-warning-content"
      title={open.map((s) => motionName(project, s.address)).join(', ')}
    >
      the loop jumps: {motionName(project, open[0].address)} by {Number(open[0].times.toPrecision(2))} × its
      way between pictures{open.length > 1 ? `, and ${open.length - 1} more` : ''}
    </span>
  );
}
