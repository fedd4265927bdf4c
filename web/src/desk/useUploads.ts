/** Files of a kind that were taken in: those that are there, and how far the next one is. */
import { useEffect, useState } from 'react';
import type { AssetLine, UploadKind } from '@wemlox/wire';
import { api } from '../state/api.ts';
import { attempt } from '../state/notices.ts';

export interface Uploads {
  files: AssetLine[];
  /** Share of an upload that has been sent; null while none is under way. */
  sent: number | null;
  /** Takes a file in. @returns it, or null when it was refused */
  take: (file: File) => Promise<AssetLine | null>;
  /** Lists them anew. */
  list: () => void;
}

export function useUploads(kind: UploadKind): Uploads {
  const [files, setFiles] = useState<AssetLine[]>([]);
  const [sent, setSent] = useState<number | null>(null);
  const list = () =>
    void attempt('Uploaded files could not be listed', () => api.assets(kind)).then(
      (found) => found && setFiles(found),
    );
  useEffect(list, [kind]);
  const take = async (file: File) => {
    setSent(0);
    const asset = await attempt(`${file.name} was not taken`, () =>
      api.upload(kind, file.name, file, setSent),
    );
    setSent(null);
    if (asset) setFiles((all) => [...all.filter((a) => a.hash !== asset.hash), asset]);
    return asset;
  };
  return { files, sent, take, list };
}
