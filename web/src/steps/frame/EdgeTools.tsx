/** Matching the camera to a plate: edges over the picture, and what the camera is by them. */
import { useEffect } from 'react';
import type { Unmatched } from '@wemlox/core/stage/vanishing';
import { showEdges } from '../../actions/matching.ts';
import { useMatching } from '../../state/matching.ts';

const WHY: Record<Unmatched, string> = {
  'no-line': 'An edge has no length: pull its ends apart.',
  'no-right-angle':
    'No camera sees these as edges of a floor at right angles: the pairs must meet on different sides of the middle.',
  'one-direction': 'Both pairs run the same way: lay one of them along edges that go across.',
};

export function EdgeTools() {
  const { on, why } = useMatching();
  useEffect(() => () => showEdges(false), []);
  return (
    <div className="flex flex-col gap-1 py-1">
      <button
        type="button"
        className={`btn btn-xs ${on ? 'btn-primary' : ''}`}
        aria-pressed={on}
        title="Lay two pairs of lines along edges of the plate that are parallel on its ground"
        onClick={() => showEdges(!on)}
      >
        Match its perspective
      </button>
      {on && (
        <p className="quiet text-xs" role="status">
          {why
            ? WHY[why]
            : 'Drag the ends of each pair along edges that are parallel on the plate’s ground, the pairs at right angles. Then raise or lower the camera by its distance.'}
        </p>
      )}
    </div>
  );
}
