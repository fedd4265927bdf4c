/** Rows of the desk: a name, a fader, a number to type; colours; choices; switches. */
import { useId, useState, type ReactNode } from 'react';
import { HexColorPicker } from 'react-colorful';
import { numberText } from '../state/language.ts';
import { usePopup } from './usePopup.ts';
import { typedNumber } from './typedNumber.ts';
import { cutName } from '@wemlox/core/document';
import { fromHex, toHex } from '@wemlox/core/maths/colour';

export function Section({
  title,
  aside,
  children,
}: {
  title: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <section className="border-b border-(--line) py-3">
      <div className="mb-1.5 flex min-h-6 items-center justify-between gap-2">
        <h2 className="font-semibold">{title}</h2>
        <div className="quiet flex items-center gap-1 text-xs">{aside}</div>
      </div>
      {children}
    </section>
  );
}

export function Fold({ title, count, children }: { title: string; count?: number; children: ReactNode }) {
  return (
    <details className="border-b border-(--line) py-2.5">
      <summary className="quiet flex cursor-pointer justify-between">
        <span>{title}</span>
        {count !== undefined && <span>{count}</span>}
      </summary>
      <div className="pt-2">{children}</div>
    </details>
  );
}

interface NumberProps {
  label: string;
  value: number;
  /** Bounds and step in the unit shown. */
  min: number;
  max: number;
  step?: number;
  unit?: string;
  /** Stored value times this is what is shown. */
  factor?: number;
  digits?: number;
  /** Faders of wide ranges move by ratio. */
  log?: boolean;
  /** The fader's reach, when typed numbers may go beyond it. */
  faderMin?: number;
  faderMax?: number;
  disabled?: boolean;
  /** What a double click on the name or the fader goes back to, as stored. */
  initial: number;
  /** What it turns, moves or measures, where the name alone does not say. */
  hint?: string;
  /** Values worth seeing on the fader, as stored, with what they mean. */
  marks?: { at: number; name: string }[];
  onChange: (value: number) => void;
}

/** Places of the fader for logarithmic ranges. */
const PLACES = 1000;

export function NumberRow(props: NumberProps) {
  const { label, value, min, max, unit, factor = 1, log, disabled, initial, hint, onChange } = props;
  const step = props.step ?? 0.01;
  const digits = props.digits ?? Math.max(0, -Math.floor(Math.log10(step)));
  const top = props.faderMax ?? max;
  const bottom = props.faderMin ?? min;
  const shown = value * factor;
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  /** Why the last entry was not taken. */
  const [refused, setRefused] = useState('');
  const meant = typed === null ? shown : typedNumber(typed, unit);
  const wrong = !(typed === null || (meant >= min && meant <= max));
  const low = log ? Math.max(bottom, step) : bottom;
  const toPlace = (v: number) =>
    log ? (PLACES * Math.log(Math.max(low, v) / low)) / Math.log(top / low) : v;
  const fromPlace = (p: number) => (log ? low * (top / low) ** (p / PLACES) : p);
  const rounded = (v: number) => (log ? Number(v.toPrecision(3)) : v);
  const place = (v: number) => (log ? toPlace(v) / PLACES : (v - bottom) / (top - bottom));
  const filled = place(shown);
  const range = `${numberText(min, 0)} to ${numberText(max, 0)}${unit ? ` ${unit}` : ''}`;
  const commit = () => {
    if (typed === null) return;
    if (!wrong) onChange(meant / factor);
    else
      setRefused(
        Number.isNaN(meant)
          ? `“${typed}” is not a number${unit ? ` in ${unit}` : ''}; ${range} is taken`
          : `${range} is taken, not ${numberText(meant, digits)}`,
      );
    setTyped(null);
  };
  const reset = () => {
    setTyped(null);
    setRefused('');
    onChange(initial);
  };
  return (
    <div className="grid grid-cols-[104px_1fr_74px] items-center gap-2.5">
      <label
        htmlFor={id}
        className="truncate"
        title={`${hint ?? label}; double click: ${numberText(initial * factor, digits)}${unit ? ` ${unit}` : ''}`}
        onDoubleClick={reset}
      >
        {label}
      </label>
      <div className="relative flex">
        {props.marks?.map(({ at, name }) => (
          <button
            key={name}
            type="button"
            className="fader-mark"
            style={{ left: `${Math.min(1, place(at * factor)) * 100}%` }}
            title={`${name}: ${numberText(at * factor, digits)} ${unit ?? ''}`}
            aria-label={`${label} to ${name}`}
            onClick={() => onChange(Math.min(max / factor, at))}
          />
        ))}
        <input
          type="range"
          aria-label={`${label}, fader`}
          tabIndex={-1}
          className="fader"
          style={{ '--filled': `${Math.min(100, Math.max(0, filled * 100))}%` } as React.CSSProperties}
          disabled={disabled}
          min={log ? 0 : bottom}
          max={log ? PLACES : top}
          step={log ? 1 : step}
          value={toPlace(shown)}
          onDoubleClick={reset}
          onChange={(e) => onChange(rounded(fromPlace(Number(e.target.value))) / factor)}
        />
      </div>
      <div className="flex items-baseline border-b border-(--line)">
        <input
          id={id}
          className={`w-full min-w-0 bg-transparent text-right ${wrong ? 'rounded-xs bg-warning text-warning-content' : ''}`}
          inputMode="decimal"
          disabled={disabled}
          title={hint ? `${hint}; ${range}` : range}
          aria-description={hint}
          aria-invalid={wrong}
          aria-errormessage={refused ? `${id}-refused` : undefined}
          value={typed ?? numberText(shown, digits)}
          onFocus={(e) => e.target.select()}
          onChange={(e) => {
            setTyped(e.target.value);
            setRefused('');
          }}
          onBlur={commit}
          onKeyDown={(e) => {
            // leaving the field gives the keyboard back to the studio
            if (e.key === 'Enter') e.currentTarget.blur();
            if (e.key === 'Escape') setTyped(null);
            const by = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
            if (by === 0) return;
            e.preventDefault();
            const size =
              (e.shiftKey ? 10 : e.altKey ? 0.1 : 1) *
              (log ? Math.max(step, Math.abs(meant || shown) * 0.05) : step);
            // from what is typed, where that is a number, else from what stands there
            const from = Number.isNaN(meant) ? shown : meant;
            onChange(Math.min(max, Math.max(min, from + by * size)) / factor);
            setTyped(null);
            setRefused('');
          }}
        />
        <span className="quiet w-6 shrink-0 pl-1 text-xs">{unit}</span>
      </div>
      {refused && (
        <p
          id={`${id}-refused`}
          role="alert"
          className="col-span-3 w-fit rounded-sm bg-warning px-1.5 py-0.5 text-xs text-warning-content"
        >
          {refused}
        </p>
      )}
    </div>
  );
}

export function ColourRow({
  label,
  value,
  onChange,
}: {
  label: string;
  value: readonly number[];
  onChange: (rgb: number[]) => void;
}) {
  const { open, setOpen, box } = usePopup();
  const hex = toHex(value);
  const [typed, setTyped] = useState<string | null>(null);
  const take = (text: string) => {
    const full = text.startsWith('#') ? text : `#${text}`;
    if (/^#[0-9a-f]{6}$/i.test(full)) onChange(fromHex(full));
  };
  return (
    <div ref={box} className="relative grid min-h-6 grid-cols-[104px_1fr_74px] items-center gap-2.5">
      <span>{label}</span>
      <button
        type="button"
        aria-label={`${label}: ${hex}, choose`}
        aria-expanded={open}
        className="h-4 w-full cursor-pointer rounded-xs border border-(--line)"
        style={{ background: hex }}
        onClick={() => setOpen(!open)}
      />
      <input
        aria-label={`${label}, hexadecimal`}
        className="w-full border-b border-(--line) bg-transparent text-right"
        value={typed ?? hex}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          if (typed !== null) take(typed);
          setTyped(null);
        }}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      {open && (
        <div className="absolute top-7 right-0 z-20 rounded-box border border-(--line) bg-base-100 p-2">
          <HexColorPicker color={hex} onChange={take} />
        </div>
      )}
    </div>
  );
}

export function ChoiceRow<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  const id = useId();
  return (
    <div className="grid min-h-7 grid-cols-[104px_1fr] items-center gap-2.5">
      <label htmlFor={id}>{label}</label>
      <select
        id={id}
        className="select select-xs w-full"
        value={value}
        onChange={(e) => onChange(e.target.value as T)}
      >
        {options.map(([v, name]) => (
          <option key={v} value={v}>
            {name}
          </option>
        ))}
      </select>
    </div>
  );
}

export function SegmentRow<T extends string>({
  label,
  value,
  options,
  hint,
  onChange,
}: {
  label: string;
  /** What it decides, where the name alone does not say. */
  hint?: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  return (
    <div
      className="grid min-h-7 grid-cols-[104px_1fr] items-center gap-2.5"
      role="radiogroup"
      aria-label={label}
      aria-description={hint}
    >
      <span title={hint}>{label}</span>
      <div className="join w-full">
        {options.map(([v, name]) => (
          <button
            key={v}
            type="button"
            role="radio"
            aria-checked={v === value}
            className={`btn join-item btn-xs flex-1 px-1 font-normal ${v === value ? 'btn-primary' : ''}`}
            onClick={() => onChange(v)}
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  );
}

export function SwitchRow({
  label,
  value,
  hint,
  onChange,
}: {
  label: string;
  value: boolean;
  /** What it turns on, where the name alone does not say. */
  hint?: string;
  onChange: (value: boolean) => void;
}) {
  return (
    <label className="flex min-h-7 cursor-pointer items-center justify-between" title={hint}>
      <span>{label}</span>
      <input
        type="checkbox"
        className="toggle toggle-xs"
        checked={value}
        onChange={(e) => onChange(e.target.checked)}
      />
    </label>
  );
}

/** A name that can be typed over. */
export function NameField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (name: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const name = typed?.trim();
    if (name && name !== value) onChange(cutName(name));
    setTyped(null);
  };
  return (
    <input
      aria-label={label}
      className="w-full min-w-0 rounded-xs bg-transparent text-[15px] font-semibold hover:bg-base-200"
      value={typed ?? value}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setTyped(null);
      }}
    />
  );
}
