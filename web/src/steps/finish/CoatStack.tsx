/** The coats of a finish, the top one first: chosen, named, hidden, moved, added. */
import {
  closestCenter,
  DndContext,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { ArrowDown, ArrowUp, Eye, EyeOff, Focus, Layers2, Trash2 } from 'lucide-react';
import type { Coat, Finish } from '@wemlox/core/document';
import { addCoat, moveCoat, removeCoat, soloCoat } from '../../actions/coats.ts';
import { set } from '../../actions/document.ts';
import { PickMenu } from '../../desk/PickMenu.tsx';

interface StackProps {
  finish: Finish;
  /** The coat chosen; null for the lowest. */
  chosen: string | null;
  onChoose: (coat: string | null) => void;
}

const coverText = ({ cover, feeds, lies }: Coat) =>
  (lies === 'light' ? 'light ' : '') +
  (feeds.some((f) => f.parameter === 'cover') ? 'fed' : `${Math.round(cover * 100)} %`);

function CoatRow({ finish, coat, at, chosen, onChoose }: StackProps & { coat: Coat; at: number }) {
  const button = 'btn btn-ghost btn-xs px-0.5';
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: coat.id });
  return (
    <li
      ref={setNodeRef}
      data-coat={coat.id}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
      className={`flex items-center gap-1 rounded-xs px-1 ${chosen === coat.id ? 'bg-base-200' : ''} ${isDragging ? 'z-10 outline-1 outline-primary' : ''}`}
    >
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
        className={button}
        aria-label={`${coat.name} alone`}
        title="Alone over the lowest; once more for all"
        onClick={() => soloCoat(finish.id, coat.id)}
      >
        <Focus size={12} />
      </button>
      <button
        type="button"
        className="min-w-0 grow cursor-grab touch-none truncate text-left"
        {...listeners}
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
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const drop = ({ active, over }: DragEndEvent) => {
    const to = finish.coats.findIndex((c) => c.id === over?.id);
    if (to >= 0 && active.id !== over?.id) moveCoat(finish.id, String(active.id), to);
  };
  const topFirst = [...finish.coats.entries()].reverse();
  return (
    <section aria-label="Coats" className="border-b border-(--line) py-2">
      <ol className="text-[13px]">
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          <SortableContext items={topFirst.map(([, c]) => c.id)} strategy={verticalListSortingStrategy}>
            {topFirst.map(([at, coat]) => (
              <CoatRow
                key={coat.id}
                finish={finish}
                coat={coat}
                at={at}
                chosen={chosen}
                onChoose={onChoose}
              />
            ))}
          </SortableContext>
        </DndContext>
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
