/** Fonts, pictures and drawings that nothing uses: seen, and removed. */
import { Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { api } from '../state/api.ts';
import type { UnusedAsset } from '@wemlox/wire';
import { sizeText, whenText } from '../state/language.ts';
import { attempt } from '../state/notices.ts';
import { Dialog } from '../desk/Dialog.tsx';

export function UnusedFiles({ onClose }: { onClose: () => void }) {
  const [found, setFound] = useState<{ days: number; assets: UnusedAsset[] } | null>(null);
  useEffect(() => {
    void attempt('Unused files could not be listed', async () => setFound(await api.unusedAssets()));
  }, []);
  const remove = (assets: UnusedAsset[]) =>
    attempt('Not removed', async () => {
      for (const { hash } of assets) await api.removeAsset(hash);
      setFound(await api.unusedAssets());
    });
  const assets = found?.assets ?? [];
  const bytes = assets.reduce((sum, a) => sum + a.size, 0);
  return (
    <Dialog title="Unused files" wide onClose={onClose}>
      <p className="quiet pb-2">
        {found === null
          ? 'Looking for files that nothing uses'
          : assets.length === 0
            ? 'Every file is in use.'
            : `${assets.length} files, ${sizeText(bytes)}. No project has ever used them; they go by themselves ${found.days} days after they came.`}
      </p>
      <ul className="max-h-[50vh] overflow-y-auto">
        {assets.map((a) => (
          <li key={a.hash} className="flex items-center gap-3 border-t border-(--line) py-1">
            <span className="min-w-0 grow truncate">{a.name}</span>
            <span className="quiet text-xs">
              {a.kind}, {sizeText(a.size)}, {whenText(a.uploadedAt)}
            </span>
            <button
              type="button"
              className="btn btn-ghost btn-xs px-1.5"
              aria-label={`Remove ${a.name}`}
              onClick={() => void remove([a])}
            >
              <Trash2 size={13} />
            </button>
          </li>
        ))}
      </ul>
      <div className="flex gap-2 pt-3">
        <button type="button" className="btn btn-sm" onClick={onClose}>
          Close
        </button>
        {assets.length > 1 && (
          <button type="button" className="btn btn-sm" onClick={() => void remove(assets)}>
            Remove all
          </button>
        )}
      </div>
    </Dialog>
  );
}
