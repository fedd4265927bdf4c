/** What the block's font can do: axes, features, and what it may be used for. */
import type { Block } from '@wemlox/core/document';
import type { FontFacts } from '@wemlox/core/type/fontFacts';
import { Fold, NumberRow, SwitchRow } from '../../desk/rows.tsx';
import { setFeature, setFontAxis } from '@wemlox/core/edits';
import { perform } from '../../state/studio.ts';
import { EMBEDDING_NAMES } from '../../state/words.ts';

export function FontRows({ block, facts }: { block: Block; facts: FontFacts }) {
  const placeOf = (tag: string, initial: number) => block.axes.find((a) => a.tag === tag)?.value ?? initial;
  const isOn = (tag: string, byItself: boolean) => block.features.find((f) => f.tag === tag)?.on ?? byItself;
  return (
    <>
      {facts.axes.map((axis) => (
        <NumberRow
          key={axis.tag}
          label={axis.name}
          min={axis.min}
          max={axis.max}
          step={axis.max - axis.min > 20 ? 1 : 0.01}
          value={placeOf(axis.tag, axis.initial)}
          initial={axis.initial}
          onChange={(value) => perform((p) => setFontAxis(p, block.id, axis, value))}
        />
      ))}
      {facts.features.length > 0 && (
        <Fold title="Font features" count={facts.features.length}>
          {facts.features.map(({ tag, name, byItself }) => (
            <SwitchRow
              key={tag}
              label={name}
              value={isOn(tag, byItself)}
              onChange={(on) => perform((p) => setFeature(p, block.id, { tag, name, byItself }, on))}
            />
          ))}
        </Fold>
      )}
      <Fold title={`Licence: ${EMBEDDING_NAMES[facts.embedding]}`}>
        <p className="text-xs" data-testid="licence">
          {facts.licence || 'The font names no licence.'}
          {facts.licenceAddress && <span className="quiet block pt-1">{facts.licenceAddress}</span>}
        </p>
      </Fold>
    </>
  );
}
