/** Where on the ground what is sharp begins and ends, and the focus between them. */
import { cameraFrame } from '@wemlox/core/stage/camera';
import { sharpBetween } from '@wemlox/core/stage/lens';
import { numberText } from '../state/language.ts';
import { useShown } from '../state/shown.ts';
import { useShot } from '../state/time.ts';
import type { FrameRect } from '../engine/draft.ts';
import { onStage } from './projection.ts';

/** How far lines reach to either side, in widths of the type. */
const REACH = 0.75;
/** Sights steeper than that see no depth along the ground. */
const STEEPEST = 0.98;

export function SharpMarks({ frame }: { frame: FrameRect }) {
  const { camera } = useShot();
  const box = useShown((v) => v.scene?.typeBox);
  if (!box || !camera.blurs || camera.view === 'parallel') return null;
  const { position, forward, right } = cameraFrame(camera, frame.width / frame.height);
  if (Math.abs(forward[1]) > STEEPEST) return null;
  const { near, far } = sharpBetween(camera);
  const ground = box.min[1];
  const half = (box.max[0] - box.min[0]) * REACH;
  const centre = box.min.map((v, i) => (v + box.max[i]) / 2);
  const level = Math.hypot(forward[0], forward[2]);
  /** The line on the ground that lies so deep in the picture, about the middle of the type. */
  const lineAt = (depth: number) => {
    const below = (ground - position[1]) * forward[1];
    const along = [0, 2].map((i) => (forward[i] / level) * ((depth - below) / level));
    // aside, so that it runs before or behind the word
    const aside = [0, 1, 2].reduce((sum, i) => sum + (centre[i] - position[i]) * right[i], 0);
    return [-half, half].map((reach) => {
      const by = aside + reach;
      const way = Math.hypot(right[0], right[2]) || 1;
      return [
        position[0] + along[0] + (right[0] / way) * by,
        ground,
        position[2] + along[1] + (right[2] / way) * by,
      ];
    });
  };
  const lines = [
    { depth: near, name: `Sharp from ${numberText(near * 1000, 0)} mm`, dash: undefined },
    { depth: camera.focus, name: 'Focus', dash: '2 4' },
    ...(Number.isFinite(far)
      ? [{ depth: far, name: `to ${numberText(far * 1000, 0)} mm`, dash: undefined }]
      : []),
  ];
  return (
    <svg
      className="pointer-events-none absolute inset-0 h-full w-full"
      data-testid="sharp-marks"
      role="img"
      aria-label="What is sharp"
    >
      {lines.map(({ depth, name, dash }) => {
        const [a, b] = lineAt(depth).map((p) => onStage(camera, frame, p));
        if (!a || !b) return null;
        return (
          <g key={name} fontSize={11}>
            {['black', 'var(--color-primary)'].map((stroke, i) => (
              <line
                key={stroke}
                x1={a[0]}
                y1={a[1] + 1 - i}
                x2={b[0]}
                y2={b[1] + 1 - i}
                stroke={stroke}
                strokeOpacity={i === 0 ? 0.5 : 1}
                strokeDasharray={dash}
              />
            ))}
            <text
              x={Math.min(b[0], frame.x + frame.width) - 6}
              y={b[1] - 3}
              textAnchor="end"
              fill="white"
              stroke="black"
              strokeWidth={2}
              paintOrder="stroke"
            >
              {name}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
