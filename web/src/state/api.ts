/** The server's API, typed. Failures are ApiError with the server's own words. */
import {
  cutTo,
  openDocument,
  openFinish,
  openRig,
  VERSION,
  type Finish,
  type Project,
  type Rig,
} from '@wemlox/core/document';
import type {
  AssetLine,
  NewPress,
  NewProof,
  PressJob,
  Problem,
  ProjectLine,
  ProjectPage,
  ProjectQuery,
  ProjectSave,
  ProofLine,
  RevisionLine,
  SavedProject,
  SaveConflict,
  StoredFinish,
  StoredProject,
  StoredRig,
  UnusedAssets,
  UploadKind,
} from '@wemlox/wire';

/** A project whose document has passed the door. */
export interface OpenProject extends StoredProject {
  document: Project;
}

const opened = (stored: StoredProject): OpenProject => ({
  ...stored,
  document: openDocument(stored.document),
});

const openedFinish = ({ version, finish }: StoredFinish): Finish => openFinish(version, finish);

export class ApiError extends Error {
  readonly status: number;
  readonly body: Partial<Problem & SaveConflict>;
  constructor(status: number, body: Partial<Problem & SaveConflict>) {
    super(typeof body.detail === 'string' ? body.detail : `the server answered ${status}`);
    this.status = status;
    this.body = body;
  }

  /** What somebody else saved first. @throws DocumentError when it cannot be opened */
  get current(): OpenProject {
    return opened(this.body.current!);
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
export const picturesUrl = (project: string, job: string) =>
  `/api/projects/${project}/press/${job}/pictures.zip`;

export const api = {
  health: () => call<{ ok: boolean }>('GET', '/health'),
  /** A page of the projects, and how many there are in all. */
  projects: async (query: Required<ProjectQuery>): Promise<ProjectPage> => {
    const words = new URLSearchParams(Object.entries(query).map(([k, v]) => [k, String(v)]));
    const response = await answered('GET', `/projects?${words.toString()}`);
    return {
      total: Number(response.headers.get('X-Total')),
      projects: (await response.json()) as ProjectLine[],
    };
  },
  create: async (document: Project, label?: string) =>
    opened(await call<StoredProject>('POST', '/projects', { document, label })),
  importFile: async (file: Blob) => opened(await call<StoredProject>('POST', '/projects/file', file)),
  /** @throws DocumentError when the document cannot be opened */
  read: async (id: string) => opened(await call<StoredProject>('GET', `/projects/${id}`)),
  save: (id: string, order: Required<ProjectSave>) => call<SavedProject>('PUT', `/projects/${id}`, order),
  revisions: (id: string) => call<RevisionLine[]>('GET', `/projects/${id}/revisions`),
  revision: async (id: string, revision: string) =>
    openDocument(await call<unknown>('GET', `/projects/${id}/revisions/${revision}`)),
  /** The newest revision that can be opened. */
  goodRevision: (id: string) => call<RevisionLine>('GET', `/projects/${id}/revisions/good`),
  goBackTo: (id: string, revision: string) =>
    call<SavedProject>('POST', `/projects/${id}/revisions/${revision}/restore`),
  unusedAssets: () => call<UnusedAssets>('GET', '/assets/unused'),
  removeAsset: (hash: string) => call<void>('DELETE', `/assets/${hash}`),
  remove: (id: string) => call<void>('DELETE', `/projects/${id}`),
  restore: (id: string) => call<void>('POST', `/projects/${id}/restore`),
  upload: (
    kind: UploadKind,
    name: string,
    bytes: Blob | Uint8Array<ArrayBuffer>,
    onProgress: (share: number) => void = () => {},
  ) =>
    send<AssetLine>(`/assets?kind=${kind}&name=${encodeURIComponent(cutTo(name, 200))}`, bytes, onProgress),
  assets: (kind: UploadKind) => call<AssetLine[]>('GET', `/assets?kind=${kind}`),
  proofs: (id: string) => call<ProofLine[]>('GET', `/projects/${id}/proofs`),
  keep: (id: string, proof: NewProof) => call<ProofLine>('POST', `/projects/${id}/proofs`, proof),
  proofDocument: async (id: string, proof: string) =>
    openDocument(await call<unknown>('GET', `/projects/${id}/proofs/${proof}/document`)),
  finishes: async () => (await call<StoredFinish[]>('GET', '/finishes')).map(openedFinish),
  keepFinish: async (finish: Finish) =>
    openedFinish(await call<StoredFinish>('POST', '/finishes', { version: VERSION, finish })),
  removeFinish: (id: string) => call<void>('DELETE', `/finishes/${id}`),
  restoreFinish: (id: string) => call<void>('POST', `/finishes/${id}/restore`),
  rigs: async () =>
    (await call<StoredRig[]>('GET', '/rigs')).map(({ id, version, rig }) => ({
      id,
      rig: openRig(version, rig),
    })),
  keepRig: (rig: Rig) => call<StoredRig>('POST', '/rigs', { version: VERSION, rig }),
  removeRig: (id: string) => call<void>('DELETE', `/rigs/${id}`),
  restoreRig: (id: string) => call<void>('POST', `/rigs/${id}/restore`),
  tagAsset: (hash: string, tags: readonly string[]) =>
    call<AssetLine>('PUT', `/assets/${hash}/tags`, { tags }),
  press: (id: string) => call<PressJob[]>('GET', `/projects/${id}/press`),
  askPress: (id: string, order: NewPress) => call<PressJob>('POST', `/projects/${id}/press`, order),
  cancelPress: (id: string, job: string) => call<void>('POST', `/projects/${id}/press/${job}/cancel`),
  removeProof: (id: string, proof: string) => call<void>('DELETE', `/projects/${id}/proofs/${proof}`),
  restoreProof: (id: string, proof: string) => call<void>('POST', `/projects/${id}/proofs/${proof}/restore`),
};
