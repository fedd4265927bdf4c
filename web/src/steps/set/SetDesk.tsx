/** Set: the words become solids. */
import { FORMS, GROWTHS, newBlock, type Block } from '@wemlox/core/src/document/index.ts';
import { EXPORT_KINDS } from '@wemlox/core/src/scene/exportKinds.ts';
import { Fold, NumberRow, Section, SegmentRow } from '../../desk/rows.tsx';
import { useShown } from '../../state/shown.ts';
import { editBlock } from '../../actions/actions.ts';
import { useChosenBlock } from '../../state/chosen.ts';
import { exportType, setForm } from '../../actions/typeActions.ts';
import { FORM_NAMES } from '../../state/words.ts';
import { BaselineRows } from './BaselineRows.tsx';
import { BevelRows } from './BevelRows.tsx';
import { BlockRow } from './BlockRow.tsx';
import { FontRows } from './FontRows.tsx';
import { PlaceRows } from './PlaceRows.tsx';
import { StripRows } from './StripRows.tsx';
import { TextRows } from './TextRows.tsx';
import { TubeRows } from './TubeRows.tsx';

/** What rows go back to. */
const PLAIN = newBlock('');

function FormRows({ block }: { block: Block }) {
  const set = (label: string, recipe: (b: Block) => void) => editBlock(block.id, label, recipe);
  return (
    <Section title="Form">
      <SegmentRow
        label="Letters are"
        value={block.form}
        options={FORMS.map((f) => [f, FORM_NAMES[f]] as const)}
        onChange={(form) => setForm(block.id, form, FORM_NAMES[form])}
      />
      {block.form !== 'tube' && (
        <>
          <NumberRow
            label={block.form === 'bevelled' ? 'Depth' : 'Side'}
            unit="mm"
            factor={1000}
            min={0}
            max={10_000}
            faderMax={Math.max(400, block.capHeight * 1000)}
            step={0.5}
            value={block.depth}
            initial={PLAIN.depth}
            onChange={(v) => set('Depth', (b) => void (b.depth = v))}
          />
          {block.form === 'puffed' && (
            <NumberRow
              label="Pressure"
              min={0}
              max={4}
              faderMax={2}
              step={0.01}
              value={block.pressure}
              initial={PLAIN.pressure}
              onChange={(v) => set('Pressure', (b) => void (b.pressure = v))}
            />
          )}
          <SegmentRow
            label="Grows"
            value={block.growth}
            options={GROWTHS.map((g) => [g, g[0].toUpperCase() + g.slice(1)] as const)}
            onChange={(v) => set('Direction of depth', (b) => void (b.growth = v))}
          />
        </>
      )}
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
