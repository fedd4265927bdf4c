/** What a feed does, as a small picture of the chosen letter's front. */
import { useEffect, useRef, useState } from 'react';
import { FEED_NAMES, type Feed } from '@wemlox/core/document';
import type { FeedPicture } from '@wemlox/core/trace/feedPicture';
import { engine } from '../engine/engine.ts';
import { useChoice } from '../state/choice.ts';
import { useShown } from '../state/shown.ts';

/** Rest of the hands before a picture is asked for, milliseconds. */
const REST = 150;
const HEIGHT = 56;

export function FeedOnLetter({ feed }: { feed: Feed }) {
  const face = useChoice((c) => c.face);
  const blocks = useShown((v) => v.blocks);
  const scene = useShown((v) => v.scene);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [picture, setPicture] = useState<FeedPicture | null>(null);
  const letters = blocks.flatMap((b) => b.letters);
  const letter = letters.find((l) => l.letter === face?.letter && l.block === face.block) ?? letters[0];
  const [block, id] = [letter?.block, letter?.letter];
  useEffect(() => {
    let current = true;
    const timer = setTimeout(() => {
      const asked = engine();
      if (!asked || !block || !id) return;
      asked.ask({ ask: 'feed', feed, block, letter: id }).then(
        (made) => current && setPicture(made),
        () => current && setPicture(null),
      );
    }, REST);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [feed, scene, block, id]);
  useEffect(() => {
    if (!picture || !canvas.current) return;
    const { width, height, data } = picture;
    Object.assign(canvas.current, { width, height });
    canvas.current.getContext('2d')!.putImageData(new ImageData(data, width, height), 0, 0);
  }, [picture]);
  if (!picture) return null;
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`${FEED_NAMES[feed.source]} on ${letter?.text ?? ''}`}
      title={`Where on ${letter?.text ?? ''} the stops lie`}
      className="mx-auto mb-1 block"
      style={{ height: HEIGHT, maxWidth: '100%' }}
    />
  );
}
