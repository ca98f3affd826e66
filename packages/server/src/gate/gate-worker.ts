import { type KelpDocument, KelpError, type OpenedDocument, openDocument } from '@kelp/core';
import {
  contentHash,
  decodeProp,
  filesOf,
  looksLikePicture,
  parseJson,
  pictureInfo,
  readArchive,
  readProjectText,
  textOf,
  writeArchive,
  writeProjectText,
} from '@kelp/formats';
import { ValidationError } from 'yup';
import type { CheckedDocument, CheckedFile, GateJobs, GateResult, GateTask } from './gate-task.js';
import { saveBody } from './save-body.js';

/** Runs in a thread of its own: whatever comes in is read and checked here, so that other requests never wait for it. */
export default async function gate(task: GateTask): Promise<GateResult> {
  try {
    return { ok: true, value: await work(task) };
  } catch (error) {
    if (error instanceof KelpError)
      return { ok: false, code: error.code, message: error.message, issues: error.issues };
    if (error instanceof ValidationError) {
      const issues = error.inner
        .slice(0, 20)
        .map(({ path, message }) => ({ path: path ?? '', message: message.slice(0, 300) }));
      return { ok: false, code: 'BAD_REQUEST', message: error.message.slice(0, 300), issues };
    }
    throw error;
  }
}

async function work(task: GateTask): Promise<GateJobs[keyof GateJobs]['out']> {
  switch (task.kind) {
    case 'save': {
      const raw = parseJson('The body', textOf('The body', task.body));
      const { basedOn, document } = saveBody.validateSync(raw, { abortEarly: false, strict: true });
      return { basedOn, document: checked(openDocument(document)) };
    }
    case 'stored':
      return checked(openDocument(JSON.parse(task.text)), task.pretty);
    case 'project': {
      const isText = task.body[0] === 0x7b;
      const project = isText
        ? { ...readProjectText('The file', textOf('The file', task.body)), props: new Map<string, Uint8Array>() }
        : readArchive('The file', task.body);
      const files: CheckedFile[] = [];
      for (const [hash, bytes] of project.props) files.push(await checkedFile(hash, bytes));
      return { document: checked({ document: project.document, notes: project.notes ?? [] }), files };
    }
    case 'file':
      if (contentHash(task.body) !== task.hash)
        throw new KelpError(
          'BAD_FILE',
          'The file arrived damaged: its content does not match its hash. Send it again.',
        );
      return checkedFile(task.hash, task.body);
    case 'archive': {
      const { document } = openDocument(JSON.parse(task.text));
      return { name: document.name, bytes: writeArchive({ document, props: task.files }) };
    }
  }
}

async function checkedFile(hash: string, bytes: Uint8Array): Promise<CheckedFile> {
  if (!looksLikePicture(bytes)) return { hash, bytes, triangles: (await decodeProp(bytes)).index.length / 3 };
  pictureInfo('The image', bytes);
  return { hash, bytes, triangles: 0 };
}

function checked({ document, notes }: OpenedDocument, pretty = false): CheckedDocument {
  return {
    name: document.name,
    text: pretty ? writeProjectText(document) : JSON.stringify(document),
    files: named(document),
    notes,
  };
}

function named(document: KelpDocument): CheckedDocument['files'] {
  const what = new Map<string, string>([
    ...document.pictures.map(({ image, name }) => [image, `image "${name}"`] as const),
    ...document.props.map(({ mesh, name }) => [mesh, `mesh of prop "${name}"`] as const),
  ]);
  return filesOf(document).map((hash) => ({ hash, what: what.get(hash) ?? 'file' }));
}
