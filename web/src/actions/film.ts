/** Films that are traced and encoded in the page: of the flip-book, and of a shot at its full size. */
import type { Project } from '@wemlox/core/document';
import { FilmFile, FILM_KINDS, type FilmKind } from '../engine/filmFile.ts';
import { ShotPictures } from '../engine/shotPictures.ts';
import { useFilming } from '../state/filming.ts';
import { flipEnds, useFlip } from '../state/flip.ts';
import { attempt } from '../state/notices.ts';
import { shotOf, useStudio } from '../state/studio.ts';
import { currentLook } from './document.ts';
import { download } from './files.ts';

const nameOf = (project: Project) => `${project.name}, ${currentLook(project).name}, ${shotOf(project).name}`;

const saveFilm = async (film: FilmFile, name: string) =>
  download(await film.end(), `${name}.${film.ending}`, `video/${film.ending}`);

/** The pictures of the flip-book between its ends, in their order; null while one of them is not there. */
function flipFilm(): ImageData[] | null {
  const { project } = useStudio.getState();
  const { pictures } = useFlip.getState();
  const { first, last } = flipEnds();
  const all: ImageData[] = [];
  for (let frame = first; frame <= last; frame++) {
    const picture = pictures.get(frame);
    if (picture?.of !== project) return null;
    all.push(picture.image);
  }
  return all;
}

/** Saves the flip-book as a film. */
export async function saveFlip(): Promise<void> {
  const pictures = flipFilm();
  if (!pictures || pictures.length === 0) return;
  const { seen: project } = useStudio.getState();
  await attempt('The flip-book could not be saved as a film', async () => {
    const film = await FilmFile.open(pictures[0], shotOf(project).rate, FILM_KINDS);
    for (const picture of pictures) await film.add(picture);
    await saveFilm(film, nameOf(project));
  });
}

export interface FilmOrder {
  width: number;
  height: number;
  samples: number;
  kind: FilmKind;
  /** Pictures of the shot. */
  first: number;
  last: number;
}

/** Traces pictures of the shot as the document is now, and saves them as a film; one film at a time. */
export async function makeFilm(order: FilmOrder): Promise<void> {
  if (useFilming.getState().now) return;
  const { width, height, samples, kind, first, last } = order;
  const { project, id } = useStudio.getState();
  const shot = shotOf(project);
  const of = { project, look: currentLook(project).id, shot: shot.id };
  const name = nameOf(project);
  const pictures = new ShotPictures();
  let stopped = false;
  const stop = () => {
    stopped = true;
    pictures.callOff();
  };
  const left = useStudio.subscribe((now) => now.id !== id && stop());
  const began = performance.now();
  useFilming.setState({ now: { name, width, height, done: 0, all: last - first + 1, began, stop } });
  await attempt('The film could not be made in this page', async () => {
    const film = await FilmFile.open({ width, height }, shot.rate, [kind]);
    let isWhole = false;
    try {
      for (let frame = first; frame <= last && !stopped; frame++) {
        const picture = await pictures.traced(of, frame, { width, height }, samples, () => !stopped);
        if (!picture) return;
        await film.add(picture);
        useFilming.setState(({ now }) => ({ now: now && { ...now, done: now.done + 1 } }));
      }
      isWhole = !stopped;
      if (isWhole) await saveFilm(film, name);
    } finally {
      if (!isWhole) await film.cancel();
    }
  });
  left();
  pictures.end();
  useFilming.setState({ now: null });
}
