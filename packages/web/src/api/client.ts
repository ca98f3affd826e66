import type { BakeSettings, Finding, KelpDocument } from '@kelp/core';
import type { BakeFormat } from '@kelp/formats';

export interface ProjectSummary {
  id: string;
  name: string;
  revision: number;
  updatedAt: string;
  deletedAt: string | null;
}

export interface ListedProject extends ProjectSummary {
  pieces: number;
  props: number;
  cover: string | null;
}

export interface Template {
  id: string;
  label: string;
  purpose: string;
}

export interface StoredProject extends ProjectSummary {
  document: KelpDocument;
  /** What had to be done to the document to open it, in words. */
  notes: string[];
  /** Whether its cover was drawn since this revision was saved. */
  covered: boolean;
}

export interface BakeState {
  id: string;
  projectId: string;
  revision: number;
  piece: string | null;
  density: number;
  format: BakeFormat;
  settings: BakeSettings;
  status: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  progress: { done: number; total: number; name: string } | null;
  report: {
    pieces: { name: string; length: number; triangles: number; vertices: number; off?: number; findings: Finding[] }[];
    bytes: number;
    seconds: number;
  } | null;
  error: string | null;
  createdAt: string;
  finishedAt: string | null;
}

/** A refusal of the server (RFC 9457), or `status` 0 when it could not be reached. */
export class ApiError extends Error {
  override name = 'ApiError';
  constructor(
    readonly status: number,
    message: string,
    readonly revision?: number,
  ) {
    super(message);
  }
}

const noAnswer = () =>
  new ApiError(0, 'The server does not answer. Your edits are kept in this browser and saved when it is back.');

async function call(path: string, init: RequestInit = {}): Promise<Response> {
  const response = await fetch(`/api${path}`, init).catch(() => {
    throw noAnswer();
  });
  if (response.ok) return response;
  const problem = (await response.json().catch(() => ({}))) as { detail?: string; revision?: number };
  throw new ApiError(response.status, problem.detail ?? `The server answered ${response.status}.`, problem.revision);
}

/** An answer that breaks off is none. */
const json = async <T>(path: string, init?: RequestInit): Promise<T> => {
  const response = await call(path, init);
  return response.json().catch(() => {
    throw noAnswer();
  });
};
const sending = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
});
const sendingBytes = (method: string, bytes: Uint8Array): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/octet-stream' },
  body: bytes as Uint8Array<ArrayBuffer>,
});

export const api = {
  projects: (deleted = false) => json<ListedProject[]>(`/projects${deleted ? '?deleted=true' : ''}`),
  templates: () => json<Template[]>('/projects/templates'),
  createProject: (name: string, template: string) =>
    json<StoredProject>('/projects', sending('POST', { name, template })),
  putCover: (id: string, png: Uint8Array) => call(`/projects/${id}/cover`, sendingBytes('PUT', png)),
  coverUrl: (id: string, stamp: string) => `/api/projects/${id}/cover?at=${encodeURIComponent(stamp)}`,
  importProject: (bytes: Uint8Array) => json<StoredProject>('/projects/import', sendingBytes('POST', bytes)),
  project: (id: string) => json<StoredProject>(`/projects/${id}`),
  saveProject: (id: string, basedOn: number, document: KelpDocument) =>
    json<ProjectSummary>(`/projects/${id}`, sending('PUT', { basedOn, document })),
  revisions: (id: string) => json<{ number: number; createdAt: string }[]>(`/projects/${id}/revisions`),
  revision: (id: string, number: number) => json<StoredProject>(`/projects/${id}/revisions/${number}`),
  deleteProject: (id: string) => call(`/projects/${id}`, { method: 'DELETE' }),
  restoreProject: (id: string) => call(`/projects/${id}/restore`, { method: 'POST' }),
  archiveUrl: (id: string) => `/api/projects/${id}/archive`,
  putProp: (hash: string, bytes: Uint8Array) => call(`/props/${hash}`, sendingBytes('PUT', bytes)),
  propUrl: (hash: string) => `/api/props/${hash}`,
  prop: async (hash: string) => new Uint8Array(await (await call(`/props/${hash}`)).arrayBuffer()),
  startBake: (id: string, options: { revision: number; format: BakeFormat } & Partial<BakeSettings>) =>
    json<BakeState>(`/projects/${id}/bakes`, sending('POST', options)),
  bakes: (id: string) => json<BakeState[]>(`/projects/${id}/bakes`),
  cancelBake: (id: string) => json<BakeState>(`/bakes/${id}/cancel`, { method: 'POST' }),
  bakeEventsUrl: (id: string) => `/api/bakes/${id}/events`,
  bakeFileUrl: (id: string) => `/api/bakes/${id}/file`,
  bakeMaterialsUrl: (id: string) => `/api/bakes/${id}/materials`,
};
