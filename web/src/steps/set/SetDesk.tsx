/** Set: the words become solids. */
import type { Block, Form } from '@wemlox/core/document';
import { setForm } from '@wemlox/core/edits';
import { EXPORT_KINDS } from '@wemlox/core/scene/exportKinds';
import { blockAddress } from '../../actions/document.ts';
import { exportType } from '../../actions/files.ts';
import { ParameterRow, ParameterRows } from '../../desk/ParameterRow.tsx';
import { Fold, Section } from '../../desk/rows.tsx';
import { useChosenBlock } from '../../state/chosen.ts';
import { useShown } from '../../state/shown.ts';
import { perform } from '../../state/studio.ts';
import { BaselineRows } from './BaselineRows.tsx';
import { BevelRows } from './BevelRows.tsx';
import { BlockRow } from './BlockRow.tsx';
import { FontRows } from './FontRows.tsx';
import { PlaceRows } from './PlaceRows.tsx';
import { PoseRows } from './PoseRows.tsx';
import { StripRows } from './StripRows.tsx';
import { TextRows } from './TextRows.tsx';
import { TubeRows } from './TubeRows.tsx';

/** Reach of the depth's fader, millimetres, where capitals are no taller. */
const DEPTH_REACH = 400;

function FormRows({ block }: { block: Block }) {
  return (
    <Section title="Form">
      <ParameterRow
        address={`${blockAddress(block.id)}/form`}
        onChange={(form: Form) => perform((p) => setForm(p, block.id, form))}
      />
      <ParameterRows
        of={blockAddress(block.id)}
        without={['capHeight', 'tracking', 'leading', 'alignment', 'form']}
        settings={{
          depth: {
            label: block.form === 'bevelled' ? undefined : 'Side',
            reach: Math.max(DEPTH_REACH, block.capHeight * 1000),
          },
        }}
      />
    </Section>
  );
}

export function SetDesk() {
  const block = useChosenBlock();
  const shaped = useShown((v) => v.blocks.find((b) => b.block === block?.id));
  if (!block) {
    return (
      <>
        <BlockRow chosen={undefined} />
        <p className="quiet py-4">The project has no type. Add a word or a drawing.</p>
      </>
    );
  }
  return (
    <>
      <BlockRow chosen={block} />
      <TextRows block={block} shaped={shaped} />
      {!block.drawing && shaped?.font && <FontRows block={block} facts={shaped.font} />}
      {!block.drawing && <BaselineRows block={block} />}
      <FormRows block={block} />
      {block.form === 'bevelled' && (
        <>
          <Section title="Front bevel">
            <BevelRows block={block} side="front" limits={shaped?.limits} />
          </Section>
          <Fold title={`Back bevel, ${(block.back.width * 1000).toFixed(1)} mm`}>
            <BevelRows block={block} side="back" limits={shaped?.limits} />
          </Fold>
        </>
      )}
      {block.form === 'tube' ? <TubeRows block={block} shaped={shaped} /> : <StripRows block={block} />}
      <PlaceRows block={block} shaped={shaped} />
      <PoseRows block={block} />
      <Section title="Save the type as">
        <div className="flex gap-1.5">
          {EXPORT_KINDS.map((kind) => (
            <button key={kind} type="button" className="btn btn-xs" onClick={() => void exportType(kind)}>
              {kind === 'svg' ? 'SVG outlines' : `${kind.toUpperCase()} solids`}
            </button>
          ))}
        </div>
      </Section>
    </>
  );
}
