/** The package ships its types beside, not under, the path its package.json names. */
declare module 'clipper2-wasm' {
  import type { MainModule } from 'clipper2-wasm/dist/clipper2z';
  export type { EndType, MainModule, PathsD } from 'clipper2-wasm/dist/clipper2z';
  export default function createClipper(): Promise<MainModule>;
}
