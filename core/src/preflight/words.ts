/** Findings in English, for screens, terminals and the press: nothing reads these words back. */
import type { Finding } from './finding.ts';

export function findingText({ code, what }: Finding): string {
  switch (code) {
    case 'font-replaced':
      return `${what.font} could not be used (${what.reason}); ${what.instead} stands in`;
    case 'drawing-unusable':
      return `${what.drawing} could not be used (${what.reason})`;
    case 'drawing-left-out':
      return `${what.drawing}: left out ${what.parts.join(', ')}`;
    case 'surround-replaced':
      return `surround ${what.surround} could not be used (${what.reason}); ${what.instead} stands in`;
    case 'picture-replaced':
      return `picture ${what.picture} of ${what.finishes.join(', ')} could not be used (${what.reason}); grey stands in`;
    case 'model-left-out':
      return `${what.model} could not be used (${what.reason}); it is left out`;
    case 'model-unread':
      return `${what.model}: not read ${what.parts.join(', ')}`;
    case 'light-file-left-out':
      return `${what.file} of ${what.light} could not be used (${what.reason}); it shines as without`;
    case 'outline-tangled':
      return `the outline of ${what.texts.join(' ')} crosses itself too often and is left out`;
    case 'outline-flat':
      return `the outline of ${what.texts.join(' ')} is too intricate and stays flat`;
  }
}
