/** What moves and is worked on: the key in hand with its way, what comes after the keys, and moves by themselves. */
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { parameterAt, type Key, type Move, type Parameter } from '@wemlox/core/document';
import { motionName } from '@wemlox/core/edits';
import { changeKeys, moveKeys, removeMove, steerMove } from '../../actions/motion.ts';
import { set } from '../../actions/document.ts';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { ChoiceRow, NumberRow, Section } from '../../desk/rows.tsx';
import { typedFrame } from '../../desk/typedFrame.ts';
import { numberText } from '../../state/language.ts';
import { useStudio } from '../../state/studio.ts';
import { isInHand, useShot, useTime } from '../../state/time.ts';
import { WayEditor } from './WayEditor.tsx';

const MOVES: Record<Move['kind'], string> = {
  turn: 'Turns on',
  swing: 'Swings',
  drift: 'Drifts',
  wander: 'Wanders',
  breathe: 'Breathes',
  pass: 'Passes along the word',
  flicker: 'Flickers',
};
/** Kinds whose amount is a share of the value, not in its unit. */
const SHARES: readonly Move['kind'][] = ['breathe', 'flicker'];

/** Kinds that go along one of a point's numbers. */
const STEERED: readonly Move['kind'][] = ['turn', 'swing', 'drift', 'wander'];
/** What letters can do one after the other: what they wear, and how each of them stands. */
const IN_TURN = /^finishes\/|^blocks\/[^/]+\/each\//;

/** When a key is, typed in pictures or seconds. */
function KeyTime({ at, rate }: { at: number; rate: number }) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const meant = typed === null ? NaN : typedFrame(typed, rate);
    if (Number.isFinite(meant) && meant >= 0) moveKeys(meant / rate - at);
    setTyped(null);
  };
  return (
    <label className="grid grid-cols-[104px_1fr_74px] items-center gap-2.5">
      <span>Picture</span>
      <span className="quiet text-right text-xs">{numberText(at, 2)} s</span>
      <input
        className="w-full border-b border-(--line) bg-transparent text-right"
        aria-label="Picture of the key"
        title="A number of pictures, or seconds with their sign"
        value={typed ?? numberText(at * rate, Number.isInteger(Math.round(at * rate * 1e6) / 1e6) ? 0 : 2)}
        onFocus={(e) => e.target.select()}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setTyped(null);
        }}
      />
    </label>
  );
}

/** The value of a key, for what is one number or the three of a point. */
function KeyValue({ of, parameter }: { of: Key; parameter: Parameter }) {
  if (parameter.kind !== 'number' && parameter.kind !== 'point') return null;
  const { unit, step } = parameter;
  const [min, max] = parameter.kind === 'number' ? [parameter.min, parameter.max] : [-1000, 1000];
  const names = parameter.kind === 'number' ? [parameter.name] : parameter.axes.map(([name]) => name);
  return names.map((name, i) => (
    <NumberRow
      key={name}
      label={name}
      unit={unit.sign}
      factor={unit.factor}
      min={min * unit.factor}
      max={max * unit.factor}
      faderMin={parameter.fader?.[0]}
      faderMax={parameter.fader?.[1]}
      step={step}
      value={of.value[i]}
      initial={of.value[i]}
      onChange={(v) => changeKeys({ value: of.value.map((old, k) => (k === i ? v : old)) })}
    />
  ));
}

function MoveRows({ move, parameter, shot }: { move: Move; parameter: Parameter; shot: string }) {
  const address = `shots/${shot}/moves/${move.id}`;
  const isShare = SHARES.includes(move.kind);
  const unit = isShare || !('unit' in parameter) ? { sign: '%', factor: 100 } : parameter.unit;
  const step = isShare || !('unit' in parameter) ? 1 : parameter.step;
  const most = Math.max(1, Math.abs(move.amount) * 3) * unit.factor;
  return (
    <div className="border-t border-(--line) pt-1.5" role="group" aria-label={MOVES[move.kind]}>
      <div className="flex items-center justify-between">
        <h3 className="font-semibold">{MOVES[move.kind]}</h3>
        <button
          type="button"
          className="btn btn-ghost btn-xs"
          aria-label={`Remove: ${MOVES[move.kind].toLowerCase()}`}
          onClick={() => removeMove(move.id)}
        >
          <Trash2 size={12} />
        </button>
      </div>
      <NumberRow
        label="How far"
        unit={unit.sign}
        factor={unit.factor}
        min={-1000 * unit.factor}
        max={1000 * unit.factor}
        faderMin={isShare ? 0 : -most}
        faderMax={isShare ? 100 : most}
        step={step}
        value={move.amount}
        initial={move.amount}
        onChange={(v) => set(`${address}/amount`, v)}
      />
      {parameter.kind === 'point' && STEERED.includes(move.kind) && (
        <ChoiceRow
          label="Along"
          value={String(move.axis)}
          options={[
            ...(move.kind === 'wander' ? [['-1', 'All ways'] as const] : []),
            ...parameter.axes.map(([name], i) => [String(i), name] as const),
          ]}
          onChange={(axis) => steerMove(move.id, Number(axis))}
        />
      )}
      <ParameterRows of={address} without={IN_TURN.test(move.address) ? [] : ['letters', 'step']} />
    </div>
  );
}

export function MotionDesk() {
  const project = useStudio((s) => s.seen);
  const shot = useShot();
  const row = useTime((t) => t.row);
  const keys = useTime((t) => t.keys);
  const placed = row === null ? null : parameterAt(project, row);
  if (row === null || !placed) return null;
  const track = shot.tracks.find((t) => t.address === row);
  const moves = shot.moves.filter((m) => m.address === row);
  if (!track && moves.length === 0) return null;
  const key = track?.keys.find((k) => isInHand(keys, track.id, k.at));
  return (
    <Section title={motionName(project, row)}>
      {track && key && (
        <div role="group" aria-label="Key">
          <KeyTime key={key.at} at={key.at} rate={shot.rate} />
          <KeyValue of={key} parameter={placed.parameter} />
          <WayEditor of={key} />
        </div>
      )}
      {track && !key && (
        <p className="quiet pb-1">Take a key in hand in the band to change it and its way.</p>
      )}
      {track && track.keys.length > 1 && (
        <ParameterRows
          of={`shots/${shot.id}/tracks/${track.id}`}
          without={IN_TURN.test(row) ? [] : ['letters', 'step', 'seed']}
        />
      )}
      {moves.map((move) => (
        <MoveRows key={move.id} move={move} parameter={placed.parameter} shot={shot.id} />
      ))}
    </Section>
  );
}
