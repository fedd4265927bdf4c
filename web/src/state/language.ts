/** Dates and numbers as the browser's language writes them, in digits that every field reads back. */
const language = () => `${navigator.language}-u-nu-latn`;

/** A moment, in short. */
export const whenText = (when: string | number): string =>
  new Date(when).toLocaleString(language(), { dateStyle: 'medium', timeStyle: 'short' });

const formats = new Map<string, Intl.NumberFormat>();

/** A number with so many decimals. */
export function numberText(value: number, digits: number): string {
  const key = `${navigator.language} ${digits}`;
  let format = formats.get(key);
  if (!format) {
    format = new Intl.NumberFormat(language(), {
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
      useGrouping: false,
      signDisplay: 'negative',
    });
    formats.set(key, format);
  }
  // a minus that fields read back
  return format.format(value).replace('\u2212', '-');
}

/** Bytes in the unit that suits them. */
export function sizeText(bytes: number): string {
  const [value, unit] =
    bytes < 1e6 ? [bytes / 1e3, 'kB'] : bytes < 1e9 ? [bytes / 1e6, 'MB'] : [bytes / 1e9, 'GB'];
  return `${numberText(value, value < 10 ? 1 : 0)} ${unit}`;
}
