/** Rows of the desk for parameters of the document: everything they show comes from the registry. */
import { AudioWaveform } from 'lucide-react';
import { Fragment, type ReactNode } from 'react';
import {
  initialOf,
  isAsked,
  parameterAt,
  parametersAt,
  wornOf,
  type Placed,
  type PointParameter,
  type Unit,
} from '@wemlox/core/document';
import { isKeyed } from '@wemlox/core/motion/seen';
import { coatAddress, feedParameter, wornAt, type WornCoat } from '../actions/coats.ts';
import { set, setAlong } from '../actions/document.ts';
import { useStudio } from '../state/studio.ts';
import { FeedRows } from './FeedRows.tsx';
import { KeyMark, openPeg } from './KeyMark.tsx';
import { PlayedRows } from './PlayedRows.tsx';
import { numberRange } from './numberRange.ts';
import { ChoiceRow, ColourRow, Fold, NumberRow, SegmentRow, SwitchRow } from './rows.tsx';

/** What a row may say or do differently where it stands. */
interface RowSettings {
  label?: string;
  hint?: string;
  /** Farthest reach of the fader in the unit shown, where it depends on what is there. */
  reach?: number;
  /** Another unit than its own, stored value times `factor`. */
  unit?: Unit;
  /** Shown turned about: what is behind counts from the front. */
  mirrored?: boolean;
  marks?: { at: number; name: string }[];
  /** Does more than setting the value. */
  onChange?: (value: never) => void;
}

/** Options that fit side by side. */
const MOST_SEGMENTS = 4;

function PointRows({ placed, parameter }: { placed: Placed; parameter: PointParameter }) {
  const { unit, step, fader, axes } = parameter;
  const value = placed.owner[placed.key] as number[];
  const initial = initialOf(placed) as number[];
  return axes.map(([name, hint], axis) => (
    <NumberRow
      key={name}
      label={name}
      hint={hint}
      unit={unit.sign}
      factor={unit.factor}
      min={-1000 * unit.factor}
      max={1000 * unit.factor}
      faderMin={fader[0]}
      faderMax={fader[1]}
      step={step}
      value={value[axis]}
      initial={initial[axis]}
      onChange={(v) => setAlong(placed.address, axis, v)}
    />
  ));
}

function Row({ placed, settings }: { placed: Placed; settings: RowSettings }) {
  const { parameter, address, owner, key } = placed;
  const label = settings.label ?? parameter.name;
  const hint = settings.hint ?? parameter.hint;
  const change = (settings.onChange ?? ((value: unknown) => set(address, value))) as (value: unknown) => void;
  switch (parameter.kind) {
    case 'number': {
      const shown = settings.unit ? { ...parameter, unit: settings.unit } : parameter;
      const range = numberRange(shown, settings.mirrored === true);
      return (
        <NumberRow
          {...range}
          faderMax={settings.reach ?? range.faderMax}
          label={label}
          hint={hint}
          value={owner[key] as number}
          initial={initialOf(placed) as number}
          marks={settings.marks}
          onChange={change}
        />
      );
    }
    case 'colour':
      return <ColourRow label={label} value={owner[key] as number[]} onChange={change} />;
    case 'point':
      return <PointRows placed={placed} parameter={parameter} />;
    case 'switch':
      return <SwitchRow label={label} value={owner[key] as boolean} hint={hint} onChange={change} />;
    case 'choice': {
      const props = { label, value: owner[key] as string, options: parameter.options, onChange: change };
      return parameter.list || parameter.options.length > MOST_SEGMENTS ? (
        <ChoiceRow {...props} />
      ) : (
        <SegmentRow {...props} hint={hint} />
      );
    }
  }
}

/** A row of a finish's parameter: with the way to feed it, or what feeds it in its place. */
function FedRow({ placed, settings, worn }: { placed: Placed; settings: RowSettings; worn: WornCoat }) {
  const { parameter, key } = placed;
  const project = useStudio((s) => s.seen);
  const finish = project.finishes.find((f) => f.id === worn.finish);
  const of = wornOf(finish, worn.coat);
  const feed = of?.feeds.find((f) => f.parameter === key);
  if (feed && (parameter.kind === 'number' || parameter.kind === 'colour'))
    return (
      <FeedRows
        worn={worn}
        feed={feed}
        parameter={parameter}
        played={
          <PlayedRows plays={feed.picture.plays}>
            <ParameterRows of={`${coatAddress(worn)}/feeds/${feed.id}/picture/plays`} />
          </PlayedRows>
        }
        rows={(without) => <ParameterRows of={`${coatAddress(worn)}/feeds/${feed.id}`} without={without} />}
      />
    );
  return (
    <div className="group relative" onKeyDown={openPeg}>
      <Row placed={placed} settings={settings} />
      {isKeyed(parameter) && <KeyMark address={placed.address} parameter={parameter} />}
      <button
        type="button"
        className="absolute top-1 -left-3.5 cursor-pointer opacity-30 group-hover:opacity-100 focus-visible:opacity-100"
        aria-label={`Feed ${parameter.name}`}
        title={`Feed ${parameter.name} by angle, height, noise …`}
        onClick={() => feedParameter(worn, key)}
      >
        <AudioWaveform size={11} />
      </button>
    </div>
  );
}

const AnyRow = ({ placed, settings }: { placed: Placed; settings: RowSettings }) => {
  const worn = placed.parameter.fed ? wornAt(placed.address) : null;
  return worn ? (
    <FedRow placed={placed} settings={settings} worn={worn} />
  ) : isKeyed(placed.parameter) ? (
    <div className="group relative" onKeyDown={openPeg}>
      <Row placed={placed} settings={settings} />
      <KeyMark address={placed.address} parameter={placed.parameter} />
    </div>
  ) : (
    <Row placed={placed} settings={settings} />
  );
};

/** The row of one parameter, whether it is asked for or not; nothing when the document has none there. */
export function ParameterRow({ address, ...settings }: { address: string } & RowSettings) {
  const project = useStudio((s) => s.seen);
  const placed = parameterAt(project, address);
  return placed && <AnyRow placed={placed} settings={settings} />;
}

/** Parameters that stand together in a fold, or alone. */
function runs(all: readonly Placed[]): [fold: string | undefined, Placed[]][] {
  const out: [string | undefined, Placed[]][] = [];
  for (const placed of all) {
    const { fold } = placed.parameter;
    if (fold !== undefined && out.at(-1)?.[0] === fold) out.at(-1)![1].push(placed);
    else out.push([fold, [placed]]);
  }
  return out;
}

/**
 * The rows of everything that stands at an address: those that are asked for, in the registry's order and folds.
 * @param without keys that are shown elsewhere
 * @param settings of single rows, by key
 */
export function ParameterRows({
  of,
  without = [],
  settings = {},
  after = {},
}: {
  of: string;
  without?: readonly string[];
  settings?: Readonly<Record<string, RowSettings>>;
  /** What follows single rows, by key. */
  after?: Readonly<Record<string, ReactNode>>;
}) {
  const project = useStudio((s) => s.seen);
  const all = parametersAt(project, of).filter(
    (placed) => placed.parameter.row !== false && !without.includes(placed.key) && isAsked(placed),
  );
  return runs(all).map(([fold, group]) => {
    const rows = group.map((placed) => (
      <Fragment key={placed.address}>
        <AnyRow placed={placed} settings={settings[placed.key] ?? {}} />
        {after[placed.key]}
      </Fragment>
    ));
    return fold === undefined ? (
      rows
    ) : (
      <Fold key={fold} title={fold} count={group.length}>
        {rows}
      </Fold>
    );
  });
}
