/** Frame: the camera and what stands around the type. */
import { FRAMES, newShot } from '@wemlox/core/src/document/index.ts';
import { NumberRow, Section, SegmentRow } from '../../desk/rows.tsx';
import { editShot, fitFrame } from '../../actions/actions.ts';
import { shotOf, useStudio } from '../../state/studio.ts';

const DEG = 180 / Math.PI;
/** What rows go back to. */
const PLAIN = newShot();
const AIM_HINTS = [
  'Moves what the camera aims at to the right',
  'Moves what the camera aims at up',
  'Moves what the camera aims at out of the type, towards its front',
];

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
          initial={PLAIN.camera.focal}
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
          initial={PLAIN.camera.distance}
          hint="Distance of the camera from what it aims at"
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
          initial={0}
          hint="Turns the camera around the type, to its right"
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
          initial={PLAIN.camera.elevation}
          hint="Raises the camera above the type, looking down on it"
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
            initial={PLAIN.camera.target[i]}
            hint={AIM_HINTS[i]}
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
          initial={PLAIN.bounces}
          hint="How often light may bounce before it is given up"
          onChange={(bounces) => editShot('Bounces', (s) => void (s.bounces = bounces))}
        />
      </Section>
    </>
  );
}
