/** The text of a block and how its letters stand together; or the drawing in its place. */
import { MOST, type Block } from '@wemlox/core/document';
import { resetKerning } from '@wemlox/core/edits';
import { partLetters, setText } from '../../actions/blocks.ts';
import { blockAddress, set } from '../../actions/document.ts';
import { ParameterRow } from '../../desk/ParameterRow.tsx';
import { Section } from '../../desk/rows.tsx';
import { useShown } from '../../state/shown.ts';
import { perform } from '../../state/studio.ts';
import type { BandBlock } from '../../workers/messages.ts';

const Warning = ({ children }: { children: React.ReactNode }) => (
  <p className="mt-1 w-fit rounded-sm bg-warning px-1.5 py-0.5 text-xs text-warning-content">{children}</p>
);

/** Letters that touch, in words, with the moves that mend it. */
function Touching({ block, shaped }: { block: Block; shaped: BandBlock }) {
  if (shaped.touches.length === 0 || block.weld || block.drawing) return null;
  const names = shaped.touches.slice(0, 4).map(([a, b]) => shaped.letters[a].text + shaped.letters[b].text);
  const more = shaped.touches.length - names.length;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-1.5" data-testid="touching">
      <span className="rounded-sm bg-warning px-1.5 py-0.5 text-xs text-warning-content">
        {names.join(', ')}
        {more > 0 ? ` and ${more} more` : ''} touch
      </span>
      <button type="button" className="btn btn-xs" onClick={() => void partLetters(block.id)}>
        Open tracking
      </button>
      <button
        type="button"
        className="btn btn-xs"
        onClick={() => set(`${blockAddress(block.id)}/weld`, true)}
      >
        Weld
      </button>
    </div>
  );
}

export function TextRows({ block, shaped }: { block: Block; shaped: BandBlock | undefined }) {
  const of = blockAddress(block.id);
  const findings = useShown((v) => v.findings);
  const missing = [...new Set(shaped?.letters.filter((l) => l.missing).map((l) => l.text))];
  const standIns = new Map<string, Set<string>>();
  for (const l of shaped?.letters ?? []) {
    if (l.standIn && !l.missing) standIns.set(l.standIn, (standIns.get(l.standIn) ?? new Set()).add(l.text));
  }
  return (
    <Section
      title={block.drawing ? 'Drawing' : 'Text'}
      aside={<span className="max-w-48 truncate">{block.drawing?.name ?? block.font.name}</span>}
    >
      {!block.drawing && (
        <textarea
          aria-label="Text"
          dir="auto"
          className="textarea textarea-sm w-full text-[15px]"
          rows={Math.min(4, block.text.split('\n').length + 1)}
          maxLength={MOST.text}
          value={block.text}
          spellCheck={false}
          onChange={(e) => setText(block.id, e.target.value)}
        />
      )}
      {findings.map(
        (f) =>
          f.code === 'drawing-left-out' &&
          f.where.block === block.id && (
            <p key={f.code} className="quiet text-xs" data-testid="left-out">
              Left out {f.what.parts.join(', ')}
            </p>
          ),
      )}
      {!block.drawing && block.text.trim() === '' && (
        <p className="quiet pt-1 text-xs">Type a word to see it on the stage.</p>
      )}
      {missing.length > 0 && (
        <Warning>
          No font at hand has {missing.join(' ')}; an empty box stands for{' '}
          {missing.length > 1 ? 'each' : 'it'}
        </Warning>
      )}
      {[...standIns].map(([name, texts]) => (
        <Warning key={name}>
          {block.font.name} has no {[...texts].join(' ')}; {name} stands in
        </Warning>
      ))}
      {shaped?.joined && (
        <p className="quiet pt-1 text-xs" data-testid="joined">
          {block.font.name} is a joined script: letters that run into each other are welded by themselves.
        </p>
      )}
      {shaped && <Touching block={block} shaped={shaped} />}
      <div className="pt-2">
        <ParameterRow address={`${of}/capHeight`} label={block.drawing ? 'Height' : undefined} />
        {!block.drawing && <ParameterRow address={`${of}/tracking`} />}
        {!block.drawing && block.text.includes('\n') && (
          <>
            <ParameterRow address={`${of}/leading`} />
            <ParameterRow address={`${of}/alignment`} />
          </>
        )}
        {(block.weld || block.kerns.length > 0) && (
          <div className="flex gap-1.5 pt-1">
            {block.weld && (
              <button type="button" className="btn btn-xs" onClick={() => set(`${of}/weld`, false)}>
                Part welded letters
              </button>
            )}
            {block.kerns.length > 0 && (
              <button
                type="button"
                className="btn btn-xs"
                onClick={() => perform((p) => resetKerning(p, block.id))}
              >
                Reset kerning
              </button>
            )}
          </div>
        )}
      </div>
    </Section>
  );
}
