/** Frame: the camera and the shape of the picture. */
import { fitFrame } from '../../actions/stage.ts';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { Section } from '../../desk/rows.tsx';
import { shotOf, useStudio } from '../../state/studio.ts';

export function FrameDesk() {
  const shot = useStudio((s) => shotOf(s.project).id);
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
        <ParameterRows of={`shots/${shot}/camera`} />
      </Section>
      <Section title="Frame">
        <ParameterRows of={`shots/${shot}`} />
      </Section>
    </>
  );
}
