/** The picture a parameter is fed from: shown, chosen, taken in, laid by hand on the letters. */
import { Move } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';
import type { Feed } from '@wemlox/core/document';
import { codingOf } from '@wemlox/core/finish/recipe';
import { PAINTED_TEXTURES } from '@wemlox/core/texture/paintedTextures';
import { feedPicture, type WornCoat } from '../actions/coats.ts';
import { letGo, place, usePlacing } from '../state/pictures.ts';
import { PicturePicker } from './PicturePicker.tsx';

export function PictureRow({ worn, feed, played }: { worn: WornCoat; feed: Feed; played: ReactNode }) {
  const placing = usePlacing((s) => s.placing?.feed === feed.id);
  // the hands let go of a picture whose rows are gone
  useEffect(() => () => letGo(feed.id), [feed.id]);
  return (
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
        onClick={() => place(placing ? null : { ...worn, feed: feed.id })}
      >
        <Move size={12} /> By hand
      </button>
    </PicturePicker>
  );
}
