/**
 * Elementary functions from +, −, ×, ÷ and √ alone, which IEEE 754 defines exactly: the same bits in every
 * engine, where Math.sin and its kin may differ in the last place. Kernels and constants after fdlibm
 * (Sun Microsystems, 1993); relative error below 1e-15 on the ranges used.
 */

const HALF_PI_HIGH = 1.57079632673412561417;
const HALF_PI_LOW = 6.07710050650619224932e-11;
const LN2_HIGH = 6.9314718036912381649e-1;
const LN2_LOW = 1.90821492927058770002e-10;

function sinKernel(x: number): number {
  const z = x * x;
  const r =
    8.33333333332248946124e-3 +
    z *
      (-1.98412698298579493134e-4 +
        z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
  return x + z * x * (-1.66666666666666324348e-1 + z * r);
}

function cosKernel(x: number): number {
  const z = x * x;
  const r =
    4.16666666666666019037e-2 +
    z *
      (-1.38888888888741095749e-3 +
        z *
          (2.48015872894767294178e-5 +
            z *
              (-2.75573143513906633035e-7 +
                z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11))));
  return 1 - 0.5 * z + z * z * r;
}

/** Sine; |x| up to about 1e5. */
export function sin(x: number): number {
  const n = Math.round(x / (Math.PI / 2));
  const y = x - n * HALF_PI_HIGH - n * HALF_PI_LOW;
  const q = n & 3;
  return q === 0 ? sinKernel(y) : q === 1 ? cosKernel(y) : q === 2 ? -sinKernel(y) : -cosKernel(y);
}

/** Cosine; |x| up to about 1e5. */
export function cos(x: number): number {
  const n = Math.round(x / (Math.PI / 2));
  const y = x - n * HALF_PI_HIGH - n * HALF_PI_LOW;
  const q = n & 3;
  return q === 0 ? cosKernel(y) : q === 1 ? -sinKernel(y) : q === 2 ? -cosKernel(y) : sinKernel(y);
}

export const tan = (x: number) => sin(x) / cos(x);

/** Arc tangent. */
export function atan(v: number): number {
  const x = Math.abs(v);
  let base = 0;
  let low = 0;
  let y = x;
  if (x >= 2.4375) {
    base = 1.570796326794896558;
    low = 6.12323399573676603587e-17;
    y = -1 / x;
  } else if (x >= 1.1875) {
    base = 9.82793723247329054082e-1;
    low = 1.39033110312309984516e-17;
    y = (x - 1.5) / (1 + 1.5 * x);
  } else if (x >= 0.6875) {
    base = 7.85398163397448278999e-1;
    low = 3.06161699786838301793e-17;
    y = (x - 1) / (x + 1);
  } else if (x >= 0.4375) {
    base = 4.63647609000806093515e-1;
    low = 2.26987774529616870924e-17;
    y = (2 * x - 1) / (2 + x);
  }
  const z = y * y;
  const w = z * z;
  const s1 =
    z *
    (3.33333333333329318027e-1 +
      w *
        (1.42857142725034663711e-1 +
          w *
            (9.09088713343650656196e-2 +
              w *
                (6.66107313738753120669e-2 +
                  w * (4.97687799461593236017e-2 + w * 1.62858201153657823623e-2)))));
  const s2 =
    w *
    (-1.99999999998764832476e-1 +
      w *
        (-1.1111110405462355788e-1 +
          w *
            (-7.69187620504482999495e-2 + w * (-5.83357013379057348645e-2 + w * -3.6531572744216915527e-2))));
  const r = base === 0 ? y - y * (s1 + s2) : base - (y * (s1 + s2) - low - y);
  return v < 0 ? -r : r;
}

/** Angle of (x, y), −π … π. */
export function atan2(y: number, x: number): number {
  if (x === 0) return y > 0 ? Math.PI / 2 : y < 0 ? -Math.PI / 2 : 0;
  const a = atan(y / x);
  if (x > 0) return a;
  return y >= 0 ? a + Math.PI : a - Math.PI;
}

/** Arc sine; the argument is clamped to [−1, 1]. */
export function asin(v: number): number {
  const x = v > 1 ? 1 : v < -1 ? -1 : v;
  return atan2(x, Math.sqrt((1 - x) * (1 + x)));
}

/** Arc cosine; the argument is clamped to [−1, 1]. */
export const acos = (v: number) => Math.PI / 2 - asin(v);

/** e to the x; 0 below −700, Infinity above 709. */
export function exp(x: number): number {
  if (x < -700) return 0;
  if (x > 709) return Infinity;
  const k = Math.round(x / Math.LN2);
  const hi = x - k * LN2_HIGH;
  const lo = k * LN2_LOW;
  const r = hi - lo;
  const t = r * r;
  const c =
    r -
    t *
      (1.66666666666666019037e-1 +
        t *
          (-2.77777777770155933842e-3 +
            t *
              (6.61375632143793436117e-5 + t * (-1.6533902205465251539e-6 + t * 4.13813679705723846039e-8))));
  const y = 1 - (lo - (r * c) / (2 - c) - hi);
  return y * powerOfTwo(k);
}

const doubles = new Float64Array(1);
const words = new Uint32Array(doubles.buffer);

/** Exactly 2^k for −1022 ≤ k ≤ 1023. */
function powerOfTwo(k: number): number {
  words[0] = 0;
  words[1] = (k + 1023) << 20;
  return doubles[0];
}

/** Natural logarithm of a positive normal number. */
export function log(x: number): number {
  if (!(x > 0)) return x === 0 ? -Infinity : NaN;
  doubles[0] = x;
  let k = ((words[1] >>> 20) & 0x7ff) - 1023;
  words[1] = (words[1] & 0xfffff) | 0x3ff00000;
  let m = doubles[0];
  if (m > Math.SQRT2) {
    m /= 2;
    k++;
  }
  const f = m - 1;
  const s = f / (2 + f);
  const z = s * s;
  const w = z * z;
  const t1 = w * (3.999999999940941908e-1 + w * (2.222219843214978396e-1 + w * 1.531383769920937332e-1));
  const t2 =
    z *
    (6.66666666666673513e-1 +
      w * (2.857142874366239149e-1 + w * (1.818357216161805012e-1 + w * 1.479819860511658591e-1)));
  const half = 0.5 * f * f;
  return k * LN2_HIGH - (half - (s * (half + t1 + t2) + k * LN2_LOW) - f);
}

/** x to the y for x ≥ 0. */
export const pow = (x: number, y: number) => (x === 0 ? (y === 0 ? 1 : 0) : exp(y * log(x)));

const bits = new DataView(new ArrayBuffer(8));

/** The whole number k with 2^k ≤ x < 2^(k + 1), read off the number itself; x is a normal number above nought. */
export function floorLog2(x: number): number {
  bits.setFloat64(0, x);
  return ((bits.getUint32(0) >>> 20) & 0x7ff) - 1023;
}
