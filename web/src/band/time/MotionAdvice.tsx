/** What can go wrong in the shot's time, each with the way there or a mend. */
import { useEffect, useState } from 'react';
import { motionName, setParameter } from '@wemlox/core/edits';
import { blockName } from '@wemlox/core/document';
import { lookedThrough, type MotionFinding } from '@wemlox/core/motion/findings';
import { letterBoxes } from '@wemlox/core/motion/letterBoxes';
import { centreOf } from '@wemlox/core/stage/camera';
import { Advice } from '../../desk/Advice.tsx';
import { useChoice } from '../../state/choice.ts';
import { numberText } from '../../state/language.ts';
import { useShown } from '../../state/shown.ts';
import { goToFrame, lookOf, perform, useStudio } from '../../state/studio.ts';
import { stop, useShot } from '../../state/time.ts';

/** Time without a change after which the shot is looked through, and how long it is at a time, ms. */
const REST = 250;
const SLICE = 8;

/** What was found in the shot as it is; null until all of it was looked through. */
function useFindings(): MotionFinding[] | null {
  const project = useStudio((s) => s.project);
  const shot = useShot().id;
  const lookId = useChoice((c) => c.lookId);
  const blocks = useShown((v) => v.blocks);
  const typeBox = useShown((v) => v.scene?.typeBox);
  const [found, setFound] = useState<MotionFinding[] | null>(null);
  useEffect(() => {
    setFound(null);
    if (!typeBox) return;
    let due: ReturnType<typeof setTimeout>;
    const all: MotionFinding[] = [];
    const look = lookedThrough(
      project,
      lookOf(project, lookId).id,
      shot,
      blocks.flatMap(letterBoxes),
      centreOf(typeBox),
    );
    const go = () => {
      const until = performance.now() + SLICE;
      while (performance.now() < until) {
        const { done, value } = look.next();
        if (done) {
          setFound(all);
          return;
        }
        if (value) all.push(value);
      }
      due = setTimeout(go);
    };
    due = setTimeout(go, REST);
    return () => clearTimeout(due);
  }, [project, shot, lookId, blocks, typeBox]);
  return found;
}

function said(finding: MotionFinding): string {
  const { project } = useStudio.getState();
  switch (finding.kind) {
    case 'loop jumps':
      return `The loop jumps: ${motionName(project, finding.address)}, by ${numberText(finding.times, 1)} times its way between pictures`;
    case 'flicker too fast':
      return `${motionName(project, finding.address)} flickers faster than the pictures can show`;
    case 'exposure jumps':
      return `The exposure jumps by ${numberText(finding.stops, 1)} stops at picture ${finding.frame}`;
    case 'camera in the type':
      return `The camera goes through a letter at picture ${finding.frame}`;
    case 'camera behind the wall':
      return `The camera is behind the wall at picture ${finding.frame}`;
    case 'type in the wall':
    case 'type in the floor': {
      const block = project.blocks.find((b) => b.id === finding.block);
      const what = finding.kind === 'type in the wall' ? 'the wall' : 'the floor';
      return `${block ? blockName(block) : 'Type'} goes through ${what} at picture ${finding.frame}`;
    }
    case 'light in the type':
      return `${finding.light} goes through a letter at picture ${finding.frame}`;
  }
}

/** What mends a finding, or leads to it. */
function mendOf(finding: MotionFinding, shotId: string): { name: string; run: () => void } | null {
  if ('frame' in finding)
    return {
      name: 'Go there',
      run: () => {
        stop();
        goToFrame(finding.frame);
      },
    };
  const { project } = useStudio.getState();
  const shot = project.shots.find((s) => s.id === shotId);
  if (!shot) return null;
  if (finding.kind === 'flicker too fast')
    return {
      name: 'Slow it',
      run: () =>
        perform((p) => setParameter(p, `shots/${shotId}/moves/${finding.move}/speed`, shot.rate / 4)),
    };
  const track = shot.tracks.find((t) => t.address === finding.address);
  if (!track || track.ends === 'close') return null;
  return {
    name: 'Close it',
    run: () => perform((p) => setParameter(p, `shots/${shotId}/tracks/${track.id}/ends`, 'close')),
  };
}

export function MotionAdvice() {
  const findings = useFindings();
  const shot = useShot();
  if (shot.tracks.length + shot.moves.length === 0) return null;
  if (!findings) return <span className="quiet text-xs whitespace-nowrap">looking through the shot …</span>;
  if (findings.length === 0)
    return shot.loops ? <span className="quiet text-xs whitespace-nowrap">the loop closes</span> : null;
  const advised = findings.map((finding) => ({ text: said(finding), mend: mendOf(finding, shot.id) }));
  return <Advice advised={advised} testid="motion-advice" />;
}
