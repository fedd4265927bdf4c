/** What is sharp: picked in the picture, solved for the whole type or two ends of it, and told in metres. */
import { sharpBetween } from '@wemlox/core/stage/lens';
import { focusOnType } from '../../actions/stage.ts';
import { numberText } from '../../state/language.ts';
import { useFocusing } from '../../state/focusing.ts';
import { useShot } from '../../state/time.ts';

/** A distance in the unit that suits it. */
const far = (m: number) =>
  m === Infinity ? 'the horizon' : m < 10 ? `${numberText(m * 1000, 0)} mm` : `${numberText(m, 1)} m`;

export function FocusTools() {
  const { camera } = useShot();
  const { picking, ends, first } = useFocusing();
  const pick = (both: boolean) =>
    useFocusing.setState(
      picking && ends === both ? { picking: false, first: null } : { picking: true, ends: both, first: null },
    );
  if (camera.view === 'parallel') return null;
  const { near, far: end } = sharpBetween(camera);
  return (
    <div role="group" aria-label="Focus" className="py-1.5">
      <div className="flex flex-wrap gap-1.5">
        <button
          type="button"
          className={`btn btn-xs ${picking && !ends ? 'btn-primary' : ''}`}
          aria-pressed={picking && !ends}
          onClick={() => pick(false)}
        >
          Focus on …
        </button>
        <button
          type="button"
          className={`btn btn-xs ${picking && ends ? 'btn-primary' : ''}`}
          aria-pressed={picking && ends}
          onClick={() => pick(true)}
        >
          Both ends sharp …
        </button>
        <button type="button" className="btn btn-xs" onClick={focusOnType}>
          All of the word
        </button>
      </div>
      <p className="quiet pt-1 text-xs" data-testid="sharp" aria-live="polite">
        {picking
          ? ends
            ? first
              ? 'Now click the other end'
              : 'Click one end of what is to be sharp'
            : 'Click what is to be sharp'
          : camera.blurs
            ? `Sharp from ${far(near)} to ${far(end)} before the camera`
            : 'Nothing blurs for its depth'}
      </p>
    </div>
  );
}
