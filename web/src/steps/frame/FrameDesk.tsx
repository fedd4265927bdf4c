/** Frame: the camera and what stands around the type. */
import { FRAMES } from '@wemlox/core/src/document/index.ts';
import { NumberRow, Section, SegmentRow } from '../../desk/rows.tsx';
import { editShot, fitFrame } from '../../state/actions.ts';
import { shotOf, useStudio } from '../../state/studio.ts';

const DEG = 180 / Math.PI;

export function FrameDesk() {
  const shot = useStudio((s) => shotOf(s.project));
  const { camera } = shot;
  const set = (label: string, change: Partial<typeof camera>) =>
    editShot(label, (s) => Object.assign(s.camera, change));
  return (
    <>
      <Section title="Camera">
        <div className="flex gap-1.5 pb-1.5">
          <button type="button" className="btn btn-xs" onClick={() => fitFrame(true)}>
            Back to the front
          </button>
          <button type="button" className="btn btn-xs" onClick={() => fitFrame(false)}>
            Fit the word
          </button>
        </div>
        <NumberRow
          label="Focal length"
          unit="mm"
          min={8}
          max={800}
          faderMax={200}
          step={1}
          log
          value={camera.focal}
          onChange={(focal) => set('Focal length', { focal })}
        />
        <NumberRow
          label="Distance"
          unit="m"
          min={0.01}
          max={2000}
          faderMax={50}
          step={0.01}
          log
          value={camera.distance}
          onChange={(distance) => set('Distance', { distance })}
        />
        <NumberRow
          label="Around"
          unit="°"
          factor={DEG}
          min={-180}
          max={180}
          step={0.5}
          value={camera.azimuth}
          onChange={(azimuth) => set('Around', { azimuth })}
        />
        <NumberRow
          label="Above"
          unit="°"
          factor={DEG}
          min={-88}
          max={88}
          step={0.5}
          value={camera.elevation}
          onChange={(elevation) => set('Above', { elevation })}
        />
        {(['Across', 'Up', 'Out'] as const).map((name, i) => (
          <NumberRow
            key={name}
            label={`Aim ${name.toLowerCase()}`}
            unit="m"
            min={-1000}
            max={1000}
            faderMin={-5}
            faderMax={5}
            step={0.01}
            value={camera.target[i]}
            onChange={(v) => editShot('Aim of the camera', (s) => void (s.camera.target[i] = v))}
          />
        ))}
      </Section>
      <Section title="Frame">
        <SegmentRow
          label="Shape"
          value={shot.frame}
          options={FRAMES.map((f) => [f, f] as const)}
          onChange={(frame) => editShot(`Frame ${frame}`, (s) => void (s.frame = frame))}
        />
        <NumberRow
          label="Bounces"
          min={0}
          max={64}
          faderMax={24}
          step={1}
          value={shot.bounces}
          onChange={(bounces) => editShot('Bounces', (s) => void (s.bounces = bounces))}
        />
      </Section>
    </>
  );
}
