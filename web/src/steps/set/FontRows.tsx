/** What the block's font can do: axes, features, and what it may be used for. */
import type { Block } from '@wemlox/core/src/document/index.ts';
import type { FontFacts } from '@wemlox/core/src/type/fontFacts.ts';
import { Fold, NumberRow, SwitchRow } from '../../desk/rows.tsx';
import { editBlock } from '../../actions/actions.ts';
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
          onChange={(value) =>
            editBlock(block.id, axis.name, (b) => {
              b.axes = b.axes.filter((a) => a.tag !== axis.tag);
              if (value !== axis.initial) b.axes.push({ tag: axis.tag, value });
            })
          }
        />
      ))}
      {facts.features.length > 0 && (
        <Fold title="Font features" count={facts.features.length}>
          {facts.features.map(({ tag, name, byItself }) => (
            <SwitchRow
              key={tag}
              label={name}
              value={isOn(tag, byItself)}
              onChange={(on) =>
                editBlock(block.id, `${name} ${on ? 'on' : 'off'}`, (b) => {
                  b.features = b.features.filter((f) => f.tag !== tag);
                  if (on !== byItself) b.features.push({ tag, on });
                })
              }
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
