/** The picture a parameter is fed from: shown, chosen, taken in, laid by hand on the letters. */
import { Brush, Move } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';
import type { Feed } from '@wemlox/core/document';
import { codingOf } from '@wemlox/core/finish/recipe';
import { PAINTED_TEXTURES } from '@wemlox/core/texture/paintedTextures';
import { feedPicture, type WornCoat } from '../actions/coats.ts';
import { followPicture, paintBlank, paintOn } from '../actions/painting.ts';
import { letGo, takeBrush, usePainting } from '../state/painting.ts';
import { place, usePlacing } from '../state/pictures.ts';
import { useChosenBlock } from '../state/chosen.ts';
import { BrushRows } from './BrushRows.tsx';
import { PicturePicker } from './PicturePicker.tsx';

export function PictureRow({ worn, feed, played }: { worn: WornCoat; feed: Feed; played: ReactNode }) {
  const placing = usePlacing((s) => s.placing?.feed === feed.id);
  const painting = usePainting((p) => p.on?.feed === feed.id);
  const block = useChosenBlock();
  // the hands let go of a picture whose rows are gone
  useEffect(() => () => letGo(feed.id), [feed.id]);
  useEffect(() => {
    if (painting) followPicture(feed);
  }, [painting, feed]);
  return (
    <>
      <PicturePicker
        label="Picture"
        picture={feed.picture}
        played={played}
        coding={codingOf(feed)}
        painted={PAINTED_TEXTURES}
        onPick={(picture) => picture && feedPicture(worn, feed.id, picture)}
      >
        <button
          type="button"
          className={`btn btn-xs px-1 ${placing ? 'btn-primary' : ''}`}
          aria-pressed={placing}
          title="Drag it on a letter to move it, with Alt to turn it; the wheel sizes it"
          onClick={() => {
            takeBrush(null);
            place(placing ? null : { ...worn, feed: feed.id });
          }}
        >
          <Move size={12} /> By hand
        </button>
        {feed.picture.source === 'asset' && !feed.picture.plays && (
          <button
            type="button"
            className={`btn btn-xs px-1 ${painting ? 'btn-primary' : ''}`}
            aria-pressed={painting}
            title="Paint on this picture, on the letters"
            onClick={() => (painting ? takeBrush(null) : void paintOn(worn, feed))}
          >
            <Brush size={12} /> Paint
          </button>
        )}
      </PicturePicker>
      {painting ? (
        <BrushRows />
      ) : (
        block && (
          <button
            type="button"
            className="btn btn-xs mb-1"
            title="A dark picture over all of the block, to paint on by hand"
            onClick={() => void paintBlank(worn, feed.parameter, block.id)}
          >
            A blank one, to paint on
          </button>
        )
      )}
    </>
  );
}
