/** Exposure and view transform of the look. */
import { editLook, setExposure } from '../actions/actions.ts';
import { useLook } from '../state/chosen.ts';
import { NumberRow, SegmentRow } from './rows.tsx';

export function GradeRows() {
  const { grade } = useLook();
  return (
    <>
      <NumberRow
        label="Exposure"
        unit="EV"
        min={-20}
        max={20}
        faderMin={-8}
        faderMax={8}
        step={0.05}
        value={grade.exposure}
        initial={0}
        onChange={setExposure}
      />
      <SegmentRow
        label="View"
        value={grade.view}
        options={[
          ['soft', 'Soft shoulder'],
          ['plain', 'Plain sRGB'],
        ]}
        onChange={(view) => editLook('View transform', (look) => void (look.grade.view = view))}
      />
    </>
  );
}
