/**
 * A film thinner than light is long, on a metal or a dielectric: reflectance by interference between its two faces (Airy's formula,
 * Born & Wolf §1.6.4 and §14.4.1), both polarisations exactly.
 */
interface Complex {
  re: number;
  im: number;
}

const times = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});
const plus = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im });
const minus = (a: Complex, b: Complex): Complex => ({ re: a.re - b.re, im: a.im - b.im });
const scaled = (a: Complex, s: number): Complex => ({ re: a.re * s, im: a.im * s });
const absolute2 = ({ re, im }: Complex) => re * re + im * im;

function over(a: Complex, b: Complex): Complex {
  const d = absolute2(b);
  return { re: (a.re * b.re + a.im * b.im) / d, im: (a.im * b.re - a.re * b.im) / d };
}

/** The root whose imaginary part is not negative: waves in a metal die away. */
function root({ re, im }: Complex): Complex {
  const size = Math.sqrt(Math.sqrt(re * re + im * im));
  const a = Math.sqrt(Math.max(0, (Math.sqrt(re * re + im * im) + re) / 2));
  const b = Math.sqrt(Math.max(0, (Math.sqrt(re * re + im * im) - re) / 2));
  return size === 0 ? { re: 0, im: 0 } : { re: im < 0 ? -a : a, im: b };
}

/** Amplitude reflected by both faces together. @param turn e to the 2iβ */
const airy = (outer: number, inner: Complex, turn: Complex): number => {
  const back = times(inner, turn);
  return absolute2(over(plus({ re: outer, im: 0 }, back), plus({ re: 1, im: 0 }, scaled(back, outer))));
};

/** Least cosine: at none at all, a film of the index of air has no faces to speak of. */
const GRAZING = 1e-6;

/**
 * Reflectance in air, unpolarised.
 * @param incident cosine of the ray with the normal, 0 … 1
 * @param film index of the film, real
 * @param thickness and `nm`, the wavelength, in nanometres
 * @param n real and `k` imaginary part of the index of what lies under it; no k for a dielectric
 * @param turned cosine and sine of a phase, so that every engine gives the same bits
 */
export function filmReflectance(
  incident: number,
  film: number,
  thickness: number,
  nm: number,
  n: number,
  k: number,
  turned: (phase: number) => [number, number],
): number {
  const cosine = Math.max(GRAZING, incident);
  const sine2 = 1 - cosine * cosine;
  // within the film, and within the metal
  const c2 = Math.sqrt(Math.max(0, 1 - sine2 / (film * film)));
  const metal: Complex = { re: n, im: k };
  const c3 = root(minus({ re: 1, im: 0 }, over({ re: sine2, im: 0 }, times(metal, metal))));
  const [turnRe, turnIm] = turned((4 * Math.PI * film * thickness * c2) / nm);
  const turn = { re: turnRe, im: turnIm };
  const outerS = (cosine - film * c2) / (cosine + film * c2);
  const outerP = (film * cosine - c2) / (film * cosine + c2);
  const m3 = times(metal, c3);
  const innerS = over(minus({ re: film * c2, im: 0 }, m3), plus({ re: film * c2, im: 0 }, m3));
  const [a, b] = [scaled(metal, c2), scaled(c3, film)];
  const innerP = over(minus(a, b), plus(a, b));
  return (airy(outerS, innerS, turn) + airy(outerP, innerP, turn)) / 2;
}
