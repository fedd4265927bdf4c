/** The server's API, typed. Failures are ApiError with the server's own words. */
import { cutTo, type Finish, type Project } from '@wemlox/core/src/document/index.ts';

export interface ProjectLine {
  id: string;
  name: string;
  version: number;
  updatedAt: string;
  look: string;
  picture: string | null;
  proofs: number;
}

export interface StoredProject {
  id: string;
  version: number;
  document: Project;
}

/** A project saved on top of a version. */
export interface SaveOrder {
  version: number;
  document: Project;
  /** Names this save: sent again, it is no second one. */
  save: string;
  /** Step of history: saves of one step are one revision. */
  step: string;
  /** Name of the edit. */
  label: string;
}

export interface RevisionLine {
  id: string;
  /** Null for one that lost a race and was kept beside. */
  version: number | null;
  label: string;
  savedAt: string;
  picture: string | null;
}

export interface ProjectQuery {
  search: string;
  order: 'changed' | 'name' | 'words';
  offset: number;
  limit: number;
}

export interface UnusedAsset extends AssetLine {
  uploadedAt: string;
}

export interface ProofLine {
  id: string;
  name: string;
  look: string;
  shot: string;
  picture: string;
  width: number;
  height: number;
  samples: number;
  seed: number;
  renderer: string;
  keptAt: string;
}

export interface AssetLine {
  hash: string;
  kind: 'font' | 'surround' | 'drawing' | 'proof';
  name: string;
  size: number;
}

export type PressFormat = 'png8' | 'png16' | 'exr-half' | 'exr-float';

export interface PressOrder {
  name: string;
  look: string;
  shot: string;
  width: number;
  height: number;
  samples: number;
  seed: number;
  format: PressFormat;
  alpha: boolean;
  layers: boolean;
}

export interface PressJob extends PressOrder {
  id: string;
  state: 'waiting' | 'tracing' | 'done' | 'failed' | 'cancelled';
  samplesDone: number;
  seconds: number;
  message: string;
  result: string | null;
  askedAt: string;
}

export class ApiError extends Error {
  readonly status: number;
  readonly body: Record<string, unknown>;
  constructor(status: number, body: Record<string, unknown>) {
    super(typeof body.detail === 'string' ? body.detail : `the server answered ${status}`);
    this.status = status;
    this.body = body;
  }
}

async function answered(method: string, path: string, body?: BodyInit | object): Promise<Response> {
  const plain =
    body === undefined || body instanceof Blob || body instanceof Uint8Array || typeof body === 'string';
  const response = await fetch(`/api${path}`, {
    method,
    body: plain ? (body as BodyInit | undefined) : JSON.stringify(body),
    headers:
      body === undefined ? {} : { 'Content-Type': plain ? 'application/octet-stream' : 'application/json' },
  });
  if (!response.ok) throw new ApiError(response.status, await response.json().catch(() => ({})));
  return response;
}

async function call<T>(method: string, path: string, body?: BodyInit | object): Promise<T> {
  const response = await answered(method, path, body);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

/** Sends bytes and tells how far they are, 0 … 1; fetch cannot say. */
function send<T>(path: string, bytes: Blob | Uint8Array<ArrayBuffer>, onProgress: (share: number) => void) {
  return new Promise<T>((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api${path}`);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.responseType = 'json';
    request.upload.onprogress = (e) => onProgress(e.total > 0 ? e.loaded / e.total : 0);
    request.onload = () => {
      if (request.status < 300) resolve(request.response as T);
      else reject(new ApiError(request.status, (request.response as Record<string, unknown>) ?? {}));
    };
    request.onerror = () => reject(new Error('the server did not answer'));
    request.send(bytes);
  });
}

export const assetUrl = (hash: string) => `/api/assets/${hash}`;

export const api = {
  health: () => call<{ ok: boolean }>('GET', '/health'),
  /** A page of the projects, and how many there are in all. */
  projects: async (query: ProjectQuery): Promise<{ total: number; projects: ProjectLine[] }> => {
    const words = new URLSearchParams(Object.entries(query).map(([k, v]) => [k, String(v)]));
    const response = await answered('GET', `/projects?${words.toString()}`);
    return {
      total: Number(response.headers.get('X-Total')),
      projects: (await response.json()) as ProjectLine[],
    };
  },
  create: (document: Project, label?: string) =>
    call<StoredProject>('POST', '/projects', { document, label }),
  importFile: (file: Blob) => call<StoredProject>('POST', '/projects/file', file),
  read: (id: string) => call<StoredProject>('GET', `/projects/${id}`),
  save: (id: string, order: SaveOrder) => call<{ version: number }>('PUT', `/projects/${id}`, order),
  revisions: (id: string) => call<RevisionLine[]>('GET', `/projects/${id}/revisions`),
  revision: (id: string, revision: string) => call<Project>('GET', `/projects/${id}/revisions/${revision}`),
  /** The newest revision that can be opened. */
  goodRevision: (id: string) => call<RevisionLine>('GET', `/projects/${id}/revisions/good`),
  goBackTo: (id: string, revision: string) =>
    call<{ version: number }>('POST', `/projects/${id}/revisions/${revision}/restore`),
  unusedAssets: () => call<{ days: number; assets: UnusedAsset[] }>('GET', '/assets/unused'),
  removeAsset: (hash: string) => call<void>('DELETE', `/assets/${hash}`),
  remove: (id: string) => call<void>('DELETE', `/projects/${id}`),
  restore: (id: string) => call<void>('POST', `/projects/${id}/restore`),
  upload: (
    kind: AssetLine['kind'],
    name: string,
    bytes: Blob | Uint8Array<ArrayBuffer>,
    onProgress: (share: number) => void = () => {},
  ) =>
    send<AssetLine>(`/assets?kind=${kind}&name=${encodeURIComponent(cutTo(name, 200))}`, bytes, onProgress),
  assets: (kind: AssetLine['kind']) => call<AssetLine[]>('GET', `/assets?kind=${kind}`),
  proofs: (id: string) => call<ProofLine[]>('GET', `/projects/${id}/proofs`),
  keep: (id: string, proof: Omit<ProofLine, 'id' | 'keptAt'> & { document: Project }) =>
    call<ProofLine>('POST', `/projects/${id}/proofs`, proof),
  proofDocument: (id: string, proof: string) =>
    call<Project>('GET', `/projects/${id}/proofs/${proof}/document`),
  finishes: () => call<Finish[]>('GET', '/finishes'),
  keepFinish: (finish: Finish) => call<Finish>('POST', '/finishes', { finish }),
  removeFinish: (id: string) => call<void>('DELETE', `/finishes/${id}`),
  restoreFinish: (id: string) => call<void>('POST', `/finishes/${id}/restore`),
  press: (id: string) => call<PressJob[]>('GET', `/projects/${id}/press`),
  askPress: (id: string, order: PressOrder & { document: Project }) =>
    call<PressJob>('POST', `/projects/${id}/press`, order),
  cancelPress: (id: string, job: string) => call<void>('POST', `/projects/${id}/press/${job}/cancel`),
  removeProof: (id: string, proof: string) => call<void>('DELETE', `/projects/${id}/proofs/${proof}`),
  restoreProof: (id: string, proof: string) => call<void>('POST', `/projects/${id}/proofs/${proof}/restore`),
};
