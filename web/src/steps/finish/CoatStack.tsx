/** The coats of a finish, the top one first: chosen, named, hidden, moved, added. */
import { ArrowDown, ArrowUp, Eye, EyeOff, Layers2, Trash2 } from 'lucide-react';
import type { Coat, Finish } from '@wemlox/core/document';
import { addCoat, moveCoat, removeCoat } from '../../actions/coats.ts';
import { set } from '../../actions/document.ts';
import { PickMenu } from '../../desk/PickMenu.tsx';

interface StackProps {
  finish: Finish;
  /** The coat chosen; null for the lowest. */
  chosen: string | null;
  onChoose: (coat: string | null) => void;
}

const coverText = ({ cover, feeds }: Coat) =>
  feeds.some((f) => f.parameter === 'cover') ? 'fed' : `${Math.round(cover * 100)} %`;

function CoatRow({ finish, coat, at, chosen, onChoose }: StackProps & { coat: Coat; at: number }) {
  const button = 'btn btn-ghost btn-xs px-0.5';
  return (
    <li className={`flex items-center gap-1 rounded-xs px-1 ${chosen === coat.id ? 'bg-base-200' : ''}`}>
      <button
        type="button"
        className={button}
        aria-label={coat.on ? `Hide ${coat.name}` : `Show ${coat.name}`}
        aria-pressed={coat.on}
        onClick={() => set(`finishes/${finish.id}/coats/${coat.id}/on`, !coat.on)}
      >
        {coat.on ? <Eye size={13} /> : <EyeOff size={13} />}
      </button>
      <button
        type="button"
        className="min-w-0 grow cursor-pointer truncate text-left"
        aria-pressed={chosen === coat.id}
        aria-label={`Coat ${coat.name}`}
        onClick={() => onChoose(coat.id)}
      >
        {coat.name}
      </button>
      <span className="quiet text-xs">{coverText(coat)}</span>
      <button
        type="button"
        className={button}
        aria-label={`${coat.name} up`}
        disabled={at === finish.coats.length - 1}
        onClick={() => moveCoat(finish.id, coat.id, at + 1)}
      >
        <ArrowUp size={12} />
      </button>
      <button
        type="button"
        className={button}
        aria-label={`${coat.name} down`}
        disabled={at === 0}
        onClick={() => moveCoat(finish.id, coat.id, at - 1)}
      >
        <ArrowDown size={12} />
      </button>
      <button
        type="button"
        className={button}
        aria-label={`Remove ${coat.name}`}
        onClick={() => {
          removeCoat(finish.id, coat.id);
          if (chosen === coat.id) onChoose(null);
        }}
      >
        <Trash2 size={12} />
      </button>
    </li>
  );
}

export function CoatStack({ finish, chosen, onChoose, others }: StackProps & { others: readonly Finish[] }) {
  return (
    <section aria-label="Coats" className="border-b border-(--line) py-2">
      <ol className="text-[13px]">
        {finish.coats
          .map((coat, at) => (
            <CoatRow key={coat.id} finish={finish} coat={coat} at={at} chosen={chosen} onChoose={onChoose} />
          ))
          .reverse()}
        {finish.coats.length > 0 && (
          <li className={`rounded-xs px-1 ${chosen === null ? 'bg-base-200' : ''}`}>
            <button
              type="button"
              className="w-full cursor-pointer py-0.5 pl-6 text-left"
              aria-pressed={chosen === null}
              aria-label="Lowest coat"
              onClick={() => onChoose(null)}
            >
              {finish.name}
            </button>
          </li>
        )}
      </ol>
      <div className="mt-1 flex items-center gap-2">
        <Layers2 size={13} className="quiet" />
        <PickMenu
          label="Lay a coat over it"
          text="Lay a coat over it …"
          items={[{ id: '', name: 'Plain' }, ...others]}
          onPick={(id) => {
            const made = addCoat(finish.id, others.find((f) => f.id === id) ?? null);
            if (made !== null) onChoose(made);
          }}
        />
      </div>
    </section>
  );
}
