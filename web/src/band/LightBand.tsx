/**
 * The light chart: what each source gives of what the camera sees of each face, as it is traced. Sources are weighed
 * against each other in the picture; the balance is taken over into the look, or discarded.
 */
import { ArrowDownWideNarrow, Eye, EyeOff } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { fromHex, luminance, toHex } from '@wemlox/core/maths/colour';
import { putOut, seeOnly, takeOver, tint, weigh } from '../actions/balance.ts';
import { LightAdvice, useLightFindings } from './LightAdvice.tsx';
import { engine } from '../engine/engine.ts';
import { choose, useChoice } from '../state/choice.ts';
import { useLook } from '../state/chosen.ts';
import { numberText } from '../state/language.ts';
import {
  discardBalance,
  factorOf,
  isBalanced,
  rowKey,
  rowName,
  sourcesOf,
  useBalance,
  useLightChart,
  useRowHover,
  type ShownSource,
} from '../state/light.ts';
import { endWishing, useWishing } from '../state/wishing.ts';
import { WishTools } from './WishTools.tsx';
import { join } from '../state/together.ts';
import { useShown } from '../state/shown.ts';
import { useStudio } from '../state/studio.ts';

/** Columns this many or fewer have a fader each; of more, only the chosen one. */
const MOST_WIDE = 9;
const NARROW = 15;
/** Stops to either side that a fader reaches. */
const REACH = 6;
const WHITE = [1, 1, 1];

/** Shares of each row by source, 0 … 1, weighed as they are shown. */
function useShares(sources: readonly ShownSource[]): number[][] {
  const counted = useLightChart((l) => l.counted);
  const balance = useBalance();
  return useMemo(() => {
    if (!counted) return [];
    const { chart, rows } = counted;
    return rows.map((_, row) => {
      const given = sources.map(({ key, group }) => {
        if (group === null || group >= chart.groups) return 0;
        const at = (row * chart.groups + group) * 3;
        const [r, g, b] = chart.light.subarray(at, at + 3);
        return luminance(r, g, b) * factorOf(balance, key);
      });
      const all = given.reduce((a, b) => a + b, 0);
      return given.map((v) => (all > 0 ? v / all : 0));
    });
  }, [counted, sources, balance]);
}

const chosenLight = () => useChoice.getState().light;

function SourceHead({ source, wide, chosen }: { source: ShownSource; wide: boolean; chosen: boolean }) {
  const stops = useBalance((b) => b.stops[source.key] ?? 0);
  const out = useBalance((b) => b.out[source.key] === true);
  const tinted = useBalance((b) => b.tints[source.key]);
  const light = 'light' in source.source ? source.source.light : null;
  const dark = source.group === null;
  return (
    <div
      role="columnheader"
      aria-label={source.name}
      className={`flex min-w-0 flex-col gap-0.5 ${dark ? 'opacity-50' : ''}`}
    >
      <button
        type="button"
        className={`flex min-w-0 cursor-pointer items-center gap-1.5 text-left text-xs ${chosen ? 'text-primary' : ''}`}
        aria-pressed={light ? chosen : undefined}
        title={dark ? `${source.name}: gives no light` : source.name}
        onClick={(e) => (e.shiftKey && light && light !== chosenLight() ? join(light) : choose({ light }))}
      >
        <span className="size-2.5 shrink-0 rounded-full" style={{ background: source.colour }} />
        {wide && <span className="truncate">{source.name}</span>}
      </button>
      {wide && (
        <div className="flex items-center gap-1">
          <button
            type="button"
            className="cursor-pointer"
            aria-label={`${source.name} in the picture`}
            aria-pressed={!out}
            disabled={dark}
            title={out ? 'Put out in the picture' : 'Seen in the picture'}
            onClick={() => putOut(source.key)}
          >
            {out ? <EyeOff size={13} /> : <Eye size={13} />}
          </button>
          {'light' in source.source || 'surround' in source.source ? (
            <input
              type="color"
              className="size-4 shrink-0 cursor-pointer bg-transparent"
              aria-label={`Colour ${source.name} is seen through`}
              title="Colour it is seen through in the picture"
              disabled={dark || out}
              value={toHex(tinted ?? WHITE)}
              onChange={(e) => tint(source.key, fromHex(e.target.value) ?? WHITE)}
            />
          ) : null}
          <input
            type="range"
            className="fader min-w-0 flex-1"
            style={{ '--filled': `${((stops + REACH) / (2 * REACH)) * 100}%` } as React.CSSProperties}
            aria-label={`Balance of ${source.name}, stops`}
            disabled={dark || out}
            min={-REACH}
            max={REACH}
            step={0.1}
            value={stops}
            onDoubleClick={() => weigh(source.key, 0)}
            onChange={(e) => weigh(source.key, Number(e.target.value))}
          />
          <span className="quiet w-8 shrink-0 text-right text-[11px]">
            {stops > 0 ? '+' : ''}
            {numberText(stops, 1)}
          </span>
        </div>
      )}
    </div>
  );
}

function Cell({
  share,
  source,
  row,
  wide,
  only,
}: {
  share: number;
  source: ShownSource;
  row: string;
  wide: boolean;
  only: boolean;
}) {
  const percent = Math.round(share * 100);
  return (
    <div role="cell" className="h-[19px] min-w-0">
      <button
        type="button"
        aria-label={`${source.name} gives ${percent} % of ${row}`}
        aria-pressed={only}
        disabled={source.group === null}
        title={`${source.name}: ${numberText(share * 100, 1)} % of ${row}. Click to see it alone`}
        className={`relative block h-full w-full cursor-pointer overflow-hidden rounded-xs bg-base-200 ${only ? 'outline-2 outline-primary' : ''}`}
        onClick={() => seeOnly(source.key)}
      >
        <span
          className="absolute inset-y-0 left-0 opacity-80"
          style={{
            width: `${share * 100}%`,
            background: source.colour,
            // light colours stand on paper too
            boxShadow:
              share > 0
                ? 'inset 0 0 0 1px color-mix(in srgb, var(--color-base-content) 35%, transparent)'
                : undefined,
          }}
        />
        {wide && (
          <span className="absolute inset-y-0.5 right-0.5 flex items-center rounded-xs bg-base-100/75 px-1 text-[11px] leading-none">
            {percent}%
          </span>
        )}
      </button>
    </div>
  );
}

export function LightBand() {
  const look = useLook();
  const project = useStudio((s) => s.seen);
  const scene = useShown((v) => v.scene);
  const counted = useLightChart((l) => l.counted);
  const chosen = useChoice((c) => c.light);
  const only = useBalance((b) => b.only);
  const balanced = useBalance(isBalanced);
  const hovered = useRowHover((h) => h.row);
  const wishing = useWishing((w) => w.brush !== null);
  const findings = useLightFindings();
  /** The row that sources are sorted by; their own order when null. */
  const [by, setBy] = useState<string | null>(null);
  useEffect(() => {
    engine()?.watchLight(true);
    return () => engine()?.watchLight(false);
  }, [scene]);
  const sources = useMemo(() => sourcesOf(project, look, scene), [project, look, scene]);
  const all = useShares(sources);
  /** Faces that are seen. */
  const seen = counted ? counted.rows.map((_, r) => r).filter((r) => counted.chart.places[r] > 0) : [];
  const rows = seen.map((r) => counted!.rows[r]);
  const shares = seen.map((r) => all[r]);
  const names = rows.map((row) => rowName(row, project.pieces));
  const sorted = rows.findIndex((row) => rowKey(row) === by);
  const order = sources
    .map((_, i) => i)
    .sort((a, b) => (sorted < 0 ? a - b : shares[sorted][b] - shares[sorted][a]));
  const isWide = (i: number) =>
    sources.length <= MOST_WIDE || sources[i].key === `light/${chosen}` || sources[i].key === only;
  const columns = `112px ${order.map((i) => (isWide(i) ? 'minmax(104px, 1fr)' : `${NARROW}px`)).join(' ')}`;
  return (
    <div className="flex h-full flex-col gap-1 px-4 py-2">
      <div className="flex h-6 shrink-0 items-center gap-2">
        {wishing ? null : findings.length > 0 ? (
          <LightAdvice findings={findings} />
        ) : (
          <span className="quiet text-xs">
            {counted
              ? 'Share of what the camera sees, by source'
              : 'Shares are counted as the picture is traced'}
          </span>
        )}
        <WishTools />
        {balanced && (
          <span className="flex gap-1.5" role="status">
            {!wishing && (
              <span className="self-center text-xs text-primary">
                {only ? 'One source is seen alone' : 'The picture is balanced anew'}
              </span>
            )}
            <button type="button" className="btn btn-xs btn-primary" onClick={takeOver}>
              Take over
            </button>
            <button
              type="button"
              className="btn btn-xs"
              onClick={() => {
                discardBalance();
                endWishing();
              }}
            >
              Discard
            </button>
          </span>
        )}
      </div>
      <div
        role="table"
        aria-label="Light chart: sources across, faces down"
        className="grid min-h-0 auto-rows-[19px] content-start gap-x-1 gap-y-0.5 overflow-auto"
        style={{ gridTemplateColumns: columns, gridTemplateRows: '36px' }}
      >
        <div role="row" className="contents">
          <span role="columnheader" className="quiet self-end text-[11px]">
            {sources.length > MOST_WIDE ? `${sources.length} sources` : 'Faces'}
          </span>
          {order.map((i) => (
            <SourceHead
              key={sources[i].key}
              source={sources[i]}
              wide={isWide(i)}
              chosen={sources[i].key === `light/${chosen}`}
            />
          ))}
        </div>
        {rows.map((row, r) => (
          <div
            key={rowKey(row)}
            role="row"
            className="contents"
            onPointerEnter={() => useRowHover.setState({ row: rowKey(row) })}
            onPointerLeave={() => useRowHover.setState({ row: null })}
          >
            <div role="rowheader" className="flex min-w-0 items-center">
              <button
                type="button"
                aria-pressed={by === rowKey(row)}
                title={`Sources sorted by their share of ${names[r]}`}
                className={`flex min-w-0 cursor-pointer items-center gap-1 text-left text-xs ${hovered === rowKey(row) || by === rowKey(row) ? 'text-primary' : ''}`}
                onClick={() => setBy(by === rowKey(row) ? null : rowKey(row))}
              >
                <span className="truncate">{names[r]}</span>
                {by === rowKey(row) && <ArrowDownWideNarrow size={12} className="shrink-0" />}
              </button>
            </div>
            {order.map((i) => (
              <Cell
                key={sources[i].key}
                share={shares[r]?.[i] ?? 0}
                source={sources[i]}
                row={names[r]}
                wide={isWide(i)}
                only={only === sources[i].key}
              />
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}
