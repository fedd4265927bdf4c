/** A fed parameter: what it is fed by, and the values along it, opened in place of its row. */
import { X } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import {
  FEED_NAMES,
  type ColourParameter,
  type Feed,
  type NumberParameter,
  type Stop,
} from '@wemlox/core/document';
import { FEED } from '@wemlox/core/document/parameters';
import { isPicturesColour, isNormalMap } from '@wemlox/core/finish/recipe';
import { removeFeed, setStops, type WornCoat } from '../actions/coats.ts';
import { toHex } from '@wemlox/core/maths/colour';
import { usePainting } from '../state/painting.ts';
import { heightOf, stopAt } from './feedStops.ts';
import { FeedOnLetter } from './FeedOnLetter.tsx';
import { numberRange } from './numberRange.ts';
import { PictureRow } from './PictureRow.tsx';
import { ColourRow, NumberRow } from './rows.tsx';
import { StopStrip } from './StopStrip.tsx';

interface FeedProps {
  worn: WornCoat;
  feed: Feed;
  parameter: NumberParameter | ColourParameter;
  /** Rows of the feed's own parameters, but for some. */
  rows: (without: readonly string[]) => ReactNode;
  /** How its picture plays, where it moves. */
  played: ReactNode;
}

/** Rows of the axis that matter less often. */
const FINER: readonly string[] = ['from', 'to', 'breakup', 'breakup_scale', 'blend'];

const COARSER = Object.keys(FEED).filter((key) => !FINER.includes(key));

export function FeedRows({ worn, feed, parameter, rows, played }: FeedProps) {
  const [chosen, setChosen] = useState(0);
  const fold = useRef<HTMLDetailsElement>(null);
  const painting = usePainting((p) => p.on?.feed === feed.id);
  // who paints wants the brush at hand
  useEffect(() => {
    if (painting) fold.current!.open = true;
  }, [painting]);
  const i = Math.min(chosen, feed.stops.length - 1);
  const stop = feed.stops[i];
  const change = (stops: readonly Stop[], joins = false) => setStops(worn, feed.id, stops, joins);
  const changed = (part: Partial<Stop>) =>
    change(
      feed.stops.map((s, k) => (k === i ? { ...s, ...part } : s)),
      true,
    );
  return (
    <details ref={fold} className="-mx-2 mb-1 rounded-box border border-(--line) px-2 py-1">
      <summary className="flex min-h-6 cursor-pointer items-center gap-2">
        <span>{parameter.name}</span>
        <span className="quiet grow text-right text-xs">{FEED_NAMES[feed.source]}</span>
        <button
          type="button"
          className="btn btn-ghost btn-xs px-1"
          aria-label={`No feed for ${parameter.name}`}
          title="Take the feed away"
          onClick={(event) => {
            event.preventDefault();
            removeFeed(worn, feed.id);
          }}
        >
          <X size={12} />
        </button>
      </summary>
      <div className="pt-1">
        {feed.source === 'picture' && <PictureRow worn={worn} feed={feed} played={played} />}
        {!isPicturesColour(feed) && !isNormalMap(feed) && (
          <>
            <FeedOnLetter feed={feed} />
            <StopStrip
              stops={feed.stops}
              name={parameter.name}
              id={feed.id}
              stopAt={(at) => stopAt(feed, at)}
              colourAt={parameter.kind === 'colour' ? (at) => toHex(stopAt(feed, at).colour) : undefined}
              heightAt={(at) => heightOf(feed)(stopAt(feed, at).value)}
              chosen={i}
              onChoose={setChosen}
              onChange={change}
            />
            {parameter.kind === 'colour' ? (
              <ColourRow
                label={`Stop ${i + 1}`}
                value={stop.colour}
                onChange={(colour) => changed({ colour })}
              />
            ) : (
              <NumberRow
                label={`Stop ${i + 1}`}
                {...numberRange(parameter)}
                value={stop.value}
                initial={parameter.default}
                onChange={(value) => changed({ value })}
              />
            )}
          </>
        )}
        {rows(FINER)}
        <details>
          <summary className="quiet cursor-pointer text-xs">Window, breaks, blend</summary>
          {rows(COARSER)}
        </details>
      </div>
    </details>
  );
}
