/** Frame: what moves, the camera, the shape of the picture, its time, and what stands around the type. */
import { fitFrame } from '../../actions/stage.ts';
import { ParameterRow, ParameterRows } from '../../desk/ParameterRow.tsx';
import { Section } from '../../desk/rows.tsx';
import { useShot } from '../../state/time.ts';
import { FocusTools } from './FocusTools.tsx';
import { GuideRows } from './GuideRows.tsx';
import { MotionDesk } from './MotionDesk.tsx';
import { Overview } from './Overview.tsx';
import { PieceRows } from './PieceRows.tsx';
import { Shots } from './Shots.tsx';

const TIME = ['seconds', 'rate', 'loops', 'motion_blur', 'shutter'];
/** Rates that are asked for most, pictures a second. */
const RATES = [24, 25, 30, 60].map((at) => ({ at, name: `${at} a second` }));

export function FrameDesk() {
  const { id, motion_blur } = useShot();
  return (
    <>
      <MotionDesk />
      <Shots />
      <Section title="Camera">
        <div className="flex gap-1.5 pb-1.5">
          <button type="button" className="btn btn-xs" onClick={() => fitFrame(true)}>
            Back to the front
          </button>
          <button type="button" className="btn btn-xs" onClick={() => fitFrame(false)}>
            Fit the word
          </button>
        </div>
        <Overview />
        <ParameterRows of={`shots/${id}/camera`} after={{ blurs: <FocusTools /> }} />
      </Section>
      <Section title="Time">
        <ParameterRow address={`shots/${id}/seconds`} />
        <ParameterRow address={`shots/${id}/rate`} marks={RATES} />
        <ParameterRow address={`shots/${id}/loops`} />
        <ParameterRow address={`shots/${id}/motion_blur`} />
        {motion_blur && <ParameterRow address={`shots/${id}/shutter`} />}
      </Section>
      <PieceRows />
      <GuideRows />
      <Section title="Frame">
        <ParameterRows of={`shots/${id}`} without={TIME} />
      </Section>
    </>
  );
}
