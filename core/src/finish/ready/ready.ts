/** How ready finishes are written down. */
import {
  newCoat,
  newFeed,
  plainFinish,
  plainSurface,
  type Coat,
  type Family,
  type Feed,
  type FeedSource,
  type Finish,
  type Surface,
} from '../../document/index.ts';

/** Places along an axis, with a number or a linear colour. */
type Course = readonly (readonly [at: number, value: number | readonly number[]])[];

/** Feeds a parameter along an axis. */
export function fed(parameter: string, source: FeedSource, course: Course, axis: Partial<Feed> = {}): Feed {
  const coloured = typeof course[0]![1] !== 'number';
  return {
    ...newFeed(`${parameter}-feed`, parameter, coloured ? [1, 1, 1] : 0),
    source,
    ...axis,
    stops: course.map(([at, value]) => ({
      at,
      value: typeof value === 'number' ? value : 0,
      colour: typeof value === 'number' ? [1, 1, 1] : [...value],
    })),
  };
}

/** A coat to lie over others. */
export const over = (
  id: string,
  name: string,
  cover: number,
  surface: Partial<Surface>,
  feeds: Feed[] = [],
): Coat => newCoat({ id, name, cover, surface: plainSurface(surface), feeds });

export const ready = (
  id: string,
  name: string,
  family: Family,
  surface: Partial<Surface>,
  feeds: Feed[] = [],
  coats: Coat[] = [],
): Finish => plainFinish({ id, name, family, surface: plainSurface(surface), feeds, coats });
