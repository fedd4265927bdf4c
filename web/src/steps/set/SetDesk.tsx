/** Set: the words become solids. */
import {
  ALIGNMENTS,
  GROWTHS,
  LONGEST_TEXT,
  newBlock,
  type Bevel,
  type Block,
} from '@wemlox/core/src/document/index.ts';
import { isCurved } from '@wemlox/core/src/type/profile.ts';
import type { BevelLimits } from '@wemlox/core/src/type/limits.ts';
import { Fold, NumberRow, Section, SegmentRow } from '../../desk/rows.tsx';
import { useView } from '../../stage/view.ts';
import { editBlock, floorOf, setText, standOnFloor } from '../../state/actions.ts';
import { useChosenBlock } from '../../state/chosen.ts';
import { useStudio } from '../../state/studio.ts';
import { ProfileRow } from './ProfileRow.tsx';

/** What rows go back to. */
const PLAIN = newBlock('');
const DEG = 180 / Math.PI;

function BevelRows({
  block,
  side,
  limits,
}: {
  block: Block;
  side: 'front' | 'back';
  limits: BevelLimits | null | undefined;
}) {
  const bevel = block[side];
  const where = side === 'front' ? 'Front bevel' : 'Back bevel';
  const set = (what: string, change: Partial<Bevel>) =>
    editBlock(block.id, `${where} ${what}`, (b) => Object.assign(b[side], change));
  const widest = Math.max(50, block.capHeight * 250);
  return (
    <>
      <NumberRow
        label="Width"
        unit="mm"
        factor={1000}
        min={0}
        max={1000}
        faderMax={widest}
        step={0.1}
        marks={
          limits
            ? [
                { at: limits.flat, name: 'flat front everywhere' },
                { at: limits.ridge, name: 'ridge everywhere' },
              ]
            : []
        }
        value={bevel.width}
        initial={PLAIN[side].width}
        onChange={(width) => set('width', { width })}
      />
      <NumberRow
        label="Height"
        unit="mm"
        factor={1000}
        min={0}
        max={1000}
        faderMax={widest}
        step={0.1}
        value={bevel.height}
        initial={PLAIN[side].height}
        onChange={(height) => set('height', { height })}
      />
      <ProfileRow value={bevel.profile} onChange={(profile) => set('profile', { profile })} />
      {isCurved(bevel.profile) && (
        <NumberRow
          label="Segments"
          min={2}
          max={32}
          step={1}
          value={bevel.segments}
          onChange={(segments) => set('segments', { segments })}
        />
      )}
    </>
  );
}

/** How far the lowest ink is from the floor, in words; null when it stands. */
function standing(bottom: number, floor: number): string | null {
  const gap = (bottom - floor) * 1000;
  if (Math.abs(gap) < 0.05) return null;
  return gap > 0
    ? `floats ${gap.toFixed(1)} mm above the floor`
    : `is sunk ${(-gap).toFixed(1)} mm into the floor`;
}

export function SetDesk() {
  const block = useChosenBlock();
  const project = useStudio((s) => s.project);
  const shaped = useView((v) => v.blocks.find((b) => b.block === block?.id));
  if (!block) return <p className="quiet py-4">The project has no type.</p>;
  const set = (label: string, recipe: (b: Block) => void) => editBlock(block.id, label, recipe);
  const hasFloor = project.pieces.some((p) => p.kind === 'floor' && p.on);
  const gap =
    hasFloor && shaped?.bounds
      ? standing(block.place.position[1] + shaped.bounds[1], floorOf(project))
      : null;
  const missing = [...new Set(shaped?.letters.filter((l) => l.missing).map((l) => l.text))];
  return (
    <>
      <Section title="Text" aside={block.font.name}>
        <textarea
          aria-label="Text"
          className="textarea textarea-sm w-full text-[15px]"
          rows={Math.min(4, block.text.split('\n').length + 1)}
          maxLength={LONGEST_TEXT}
          value={block.text}
          spellCheck={false}
          onChange={(e) => setText(block.id, e.target.value)}
        />
        {block.text.trim() === '' && (
          <p className="quiet pt-1 text-xs">Type a word to see it on the stage.</p>
        )}
        {missing.length > 0 && (
          <p className="mt-1 w-fit rounded-sm bg-warning px-1.5 py-0.5 text-xs text-warning-content">
            {block.font.name} has no {missing.join(' ')}
          </p>
        )}
        <div className="pt-2">
          <NumberRow
            label="Cap height"
            unit="mm"
            factor={1000}
            min={1}
            max={100_000}
            faderMax={3000}
            step={1}
            log
            value={block.capHeight}
            initial={PLAIN.capHeight}
            onChange={(v) => set('Cap height', (b) => void (b.capHeight = v))}
          />
          <NumberRow
            label="Tracking"
            unit="‰"
            min={-500}
            max={2000}
            faderMin={-200}
            faderMax={500}
            step={1}
            value={block.tracking}
            initial={PLAIN.tracking}
            onChange={(v) => set('Tracking', (b) => void (b.tracking = v))}
          />
          {block.text.includes('\n') && (
            <>
              <NumberRow
                label="Leading"
                unit="×"
                min={0.2}
                max={5}
                faderMax={2}
                step={0.01}
                value={block.leading}
                initial={PLAIN.leading}
                onChange={(v) => set('Leading', (b) => void (b.leading = v))}
              />
              <SegmentRow
                label="Alignment"
                value={block.alignment}
                options={ALIGNMENTS.map((a) => [a, a[0].toUpperCase() + a.slice(1)] as const)}
                onChange={(v) => set('Alignment', (b) => void (b.alignment = v))}
              />
            </>
          )}
        </div>
      </Section>
      <Section title="Depth">
        <NumberRow
          label="Depth"
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
        <SegmentRow
          label="Grows"
          value={block.growth}
          options={GROWTHS.map((g) => [g, g[0].toUpperCase() + g.slice(1)] as const)}
          onChange={(v) => set('Direction of depth', (b) => void (b.growth = v))}
        />
      </Section>
      <Section title="Front bevel">
        <BevelRows block={block} side="front" limits={shaped?.limits} />
      </Section>
      <Fold title={`Back bevel, ${(block.back.width * 1000).toFixed(1)} mm`}>
        <BevelRows block={block} side="back" limits={shaped?.limits} />
      </Fold>
      <Section
        title="Place"
        aside={gap && <span className="rounded-sm bg-warning px-1.5 py-0.5 text-warning-content">{gap}</span>}
      >
        <div className="flex gap-1.5 pb-1">
          <button type="button" className="btn btn-xs" onClick={() => standOnFloor(block.id)}>
            Stand on the floor
          </button>
          <button type="button" className="btn btn-xs" onClick={() => standOnFloor(block.id, 0.05)}>
            Float by 50 mm
          </button>
        </div>
        {(['Across', 'Up', 'Out'] as const).map((name, axis) => (
          <NumberRow
            key={name}
            label={name}
            unit="mm"
            factor={1000}
            min={-1_000_000}
            max={1_000_000}
            faderMin={-2000}
            faderMax={2000}
            step={1}
            value={block.place.position[axis]}
            onChange={(v) => set(`Place, ${name.toLowerCase()}`, (b) => void (b.place.position[axis] = v))}
          />
        ))}
        <NumberRow
          label="Turn"
          unit="°"
          factor={DEG}
          min={-180}
          max={180}
          step={0.5}
          value={block.place.turn}
          onChange={(v) => set('Turn of the type', (b) => void (b.place.turn = v))}
        />
      </Section>
    </>
  );
}
