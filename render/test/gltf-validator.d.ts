/** What of the standard's validator the tests ask. */
declare module 'gltf-validator' {
  export function validateBytes(bytes: Uint8Array): Promise<{
    issues: { messages: { code: string; message: string; severity: number; pointer?: string }[] };
    info: { extensionsUsed?: string[] };
  }>;
}
