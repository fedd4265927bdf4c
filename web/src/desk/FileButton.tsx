/** A button that takes a file in; it says how far it is. */
import { Upload } from 'lucide-react';
import { useRef } from 'react';

export function FileButton({
  label,
  text,
  hint,
  accept,
  sent,
  onFile,
}: {
  label: string;
  /** What the button says while nothing is under way. */
  text: string;
  hint?: string;
  accept: string;
  /** Share that has been sent; null while nothing is under way. */
  sent: number | null;
  onFile: (file: File) => void;
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
        className="hidden"
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) onFile(file);
          e.target.value = '';
        }}
      />
    </>
  );
}
