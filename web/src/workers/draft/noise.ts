/** Noises and patterns in GLSL ES 3.00, as the kernel counts them (core/kernel/assembly/noise.ts). */
export const NOISE = /* glsl */ `
uint fedHash(ivec3 p, int seed) {
  uint h = uint(seed) * 0x9e3779b9u;
  h = (h ^ uint(p.x)) * 0x85ebca6bu;
  h ^= h >> 15;
  h = (h ^ uint(p.y)) * 0xc2b2ae35u;
  h ^= h >> 13;
  h = (h ^ uint(p.z)) * 0x27d4eb2fu;
  h ^= h >> 16;
  h *= 0x7feb352du;
  return h ^ (h >> 15);
}
float fedShare(uint h) { return float(h >> 8) * 5.9604644775390625e-8; }
float fedGradient(ivec3 at, int seed, vec3 p) {
  uint k = fedHash(at, seed) & 15u;
  float u = k < 8u ? p.x : p.y;
  float v = k < 4u ? p.y : k == 12u || k == 14u ? p.x : p.z;
  return ((k & 1u) == 0u ? u : -u) + ((k & 2u) == 0u ? v : -v);
}
float fedOctave(vec3 p, int seed) {
  vec3 corner = floor(p);
  ivec3 i = ivec3(corner);
  vec3 a = p - corner;
  vec3 e = a * a * a * (a * (a * 6. - 15.) + 10.);
  float sum[2];
  for (int k = 0; k < 2; k++) {
    float row[2];
    for (int j = 0; j < 2; j++) {
      vec3 from = vec3(0, j, k);
      ivec3 at = i + ivec3(0, j, k);
      row[j] = mix(fedGradient(at, seed, a - from),
                   fedGradient(at + ivec3(1, 0, 0), seed, a - from - vec3(1, 0, 0)), e.x);
    }
    sum[k] = mix(row[0], row[1], e.y);
  }
  return mix(sum[0], sum[1], e.z) / 1.036;
}
float fedNoise(vec3 p, int octaves, int seed) {
  float sum = 0., size = 1., height = .5;
  for (int i = 0; i < octaves; i++) {
    sum += fedOctave(p * size, seed + i) * height;
    size *= 2.;
    height *= .5;
  }
  return sum;
}
float fedTurbulence(vec3 p, int octaves, int seed) {
  float sum = 0., size = 1., height = 1.;
  for (int i = 0; i < octaves; i++) {
    sum += abs(fedOctave(p * size, seed + i)) * height;
    size *= 2.;
    height *= .5;
  }
  return sum;
}
vec3 fedCells(vec3 p, int seed) {
  vec3 corner = floor(p);
  float near = 1e30, next = 1e30;
  uint own = 0u;
  for (int n = 0; n < 27; n++) {
    ivec3 way = ivec3(n % 3, (n / 3) % 3, n / 9) - 1;
    uint h = fedHash(ivec3(corner) + way, seed);
    vec3 d = corner + vec3(way) + vec3(fedShare(h), fedShare(h * 0x9e3779b1u), fedShare(h * 0x85ebca77u)) - p;
    float far = dot(d, d);
    if (far < near) {
      next = near;
      near = far;
      own = h;
    } else if (far < next) next = far;
  }
  return vec3(sqrt(near), sqrt(next), fedShare(own * 0xc2b2ae3du));
}
float fedWeave(vec2 p) {
  vec2 i = floor(p);
  bool over = ((int(i.x) + int(i.y)) & 3) < 2;
  float t = over ? p.y - i.y : p.x - i.x;
  return (over ? .5 : 0.) + .4999 * 4. * t * (1. - t);
}
float fedCourse(vec2 p, float height, int seed) {
  vec2 i = floor(p);
  vec2 a = (p - i) * vec2(1, height);
  float edge = min(min(a.x, 1. - a.x), min(a.y, height - a.y));
  float rise = clamp((edge - .015) / .03, 0., 1.);
  return rise * (.5 + .5 * fedShare(fedHash(ivec3(ivec2(i), 0), seed)));
}
float fedBricks(vec2 p, int seed) {
  float v = p.y / .36;
  bool odd = (int(floor(v)) & 1) != 0;
  return fedCourse(vec2(odd ? p.x + .5 : p.x, v), .36, seed);
}
`;
