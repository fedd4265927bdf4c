/** A button that takes a file in; it says how far it is. */
import { Upload } from 'lucide-react';
import { useRef } from 'react';

export function FileButton({
  label,
  text,
  hint,
  accept,
  multiple,
  sent,
  onFile,
}: {
  label: string;
  /** What the button says while nothing is under way. */
  text: string;
  hint?: string;
  accept: string;
  /** Several files may be chosen that belong together. */
  multiple?: boolean;
  /** Share that has been sent; null while nothing is under way. */
  sent: number | null;
  /** @param file the first of them */
  onFile: (file: File, all: File[]) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        className="btn btn-xs grow px-1 whitespace-nowrap"
        title={hint}
        disabled={sent !== null}
        onClick={() => input.current?.click()}
      >
        <Upload size={12} /> {sent === null ? text : sent < 1 ? `${Math.floor(sent * 100)} %` : 'Reading…'}
      </button>
      <input
        ref={input}
        type="file"
        accept={accept}
        multiple={multiple}
        className="hidden"
        aria-label={label}
        onChange={(e) => {
          const all = [...(e.target.files ?? [])];
          if (all[0]) onFile(all[0], all);
          e.target.value = '';
        }}
      />
    </>
  );
}
