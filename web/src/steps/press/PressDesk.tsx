/** Press: what leaves the studio. */
import { Download } from 'lucide-react';
import { Section } from '../../desk/rows.tsx';
import { engine } from '../../stage/engine.ts';
import { useView } from '../../stage/view.ts';
import { downloadPicture } from '../../state/keep.ts';

const FILES = [
  ['png', 'PNG, 8 bit', 'through the grade, with alpha'],
  ['png16', 'PNG, 16 bit', 'through the grade, with alpha'],
  ['exr', 'OpenEXR, float', 'scene-linear, before the grade'],
] as const;

export function PressDesk() {
  const { samples, fresh } = useView();
  const size = engine()?.pictureSize;
  return (
    <Section
      title="The picture on the stage"
      aside={fresh && size ? `${size.width} × ${size.height}, ${samples} samples` : 'not traced yet'}
    >
      {FILES.map(([kind, name, what]) => (
        <div key={kind} className="flex items-center justify-between py-1">
          <span>
            {name}
            <span className="quiet block text-xs">{what}</span>
          </span>
          <button
            type="button"
            className="btn btn-xs"
            disabled={!fresh}
            aria-label={`Download ${name}`}
            onClick={() => void downloadPicture(kind)}
          >
            <Download size={13} /> Download
          </button>
        </div>
      ))}
    </Section>
  );
}
