import { emptyDocument, tidyName } from '@kelp/core';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { testServer } from './test-server.js';

const { send, restart } = testServer();

/** What a project should be: the names it was saved under, in order, and whether it is deleted. */
interface Model {
  id: string;
  saved: string[];
  deleted: boolean;
}

it('saves, stale saves, deletions and returns in any order agree with an honest list; no revision is ever lost', async () => {
  const step = fc.record({
    which: fc.nat(2),
    what: fc.constantFrom('save', 'save stale', 'save ahead', 'delete', 'bring back', 'look at one', 'restart'),
    name: fc.string({ maxLength: 30, unit: 'grapheme' }).map((text) => tidyName(text, 'Project')),
    back: fc.integer({ min: 1, max: 5 }),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 5, maxLength: 25 }), async (steps) => {
      const models: Model[] = [];
      for (const name of ['One', 'Two', 'Three']) {
        const made = await (await send('POST', '/projects', { name })).json();
        models.push({ id: made.id, saved: [name], deleted: false });
      }
      for (const { which, what, name, back } of steps) {
        const model = models[which];
        const at = `/projects/${model.id}`;
        const newest = model.saved.length;
        if (what === 'restart') {
          await restart();
        } else if (what === 'delete') {
          expect((await send('DELETE', at)).status).toBe(model.deleted ? 404 : 204);
          model.deleted = true;
        } else if (what === 'bring back') {
          const { status } = await send('POST', `${at}/restore`);
          expect(status < 500).toBe(true);
          model.deleted = false;
        } else if (what === 'look at one') {
          const number = Math.max(1, newest - back);
          const answer = await send('GET', `${at}/revisions/${number}`);
          if (!model.deleted) expect((await answer.json()).document.name).toBe(model.saved[number - 1]);
        } else {
          const basedOn = { save: newest, 'save stale': newest - back, 'save ahead': newest + back }[what];
          const answer = await send('PUT', at, { basedOn, document: emptyDocument(name) });
          if (model.deleted || basedOn !== newest) expect([400, 404, 409]).toContain(answer.status);
          else {
            expect(answer.status).toBe(200);
            expect((await answer.json()).revision).toBe(newest + 1);
            model.saved.push(name);
          }
        }
      }
      for (const { id, saved, deleted } of models) {
        if (deleted) await send('POST', `/projects/${id}/restore`);
        const now = await (await send('GET', `/projects/${id}`)).json();
        expect(now).toMatchObject({ revision: saved.length, document: { name: saved.at(-1) } });
        const history = await (await send('GET', `/projects/${id}/revisions`)).json();
        expect(
          history.map(({ number }: { number: number }) => number).toSorted((a: number, b: number) => a - b),
        ).toEqual(saved.map((_, i) => i + 1));
      }
    }),
    { numRuns: 12 },
  );
});

it('nothing that is sent to any address makes it fail: it is done, or refused with a sentence', async () => {
  const id = fc.constantFrom('00000000-0000-4000-8000-000000000000', '..', '%00', "1' OR '1'='1", '𝕜', '0'.repeat(64));
  const path = fc
    .tuple(
      fc.constantFrom('', '/projects', '/projects/:', '/props/:', '/bakes/:', '/pictures/:', '/files/:', '/templates'),
      fc.constantFrom(
        '',
        '/restore',
        '/cover',
        '/revisions',
        '/revisions/:',
        '/archive',
        '/text',
        '/bakes',
        '/file',
        '/cancel',
      ),
      id,
    )
    .map(([head, tail, what]) => `${head}${tail}`.replaceAll(':', encodeURIComponent(what)));
  const body = fc.oneof(
    fc.record({ content: fc.jsonValue(), type: fc.constant('application/json') }),
    fc.record({
      content: fc.uint8Array({ maxLength: 200 }),
      type: fc.constantFrom('application/octet-stream', 'text/plain', 'image/png'),
    }),
    fc.constant({ content: undefined, type: '' }),
  );
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom('GET', 'POST', 'PUT', 'DELETE', 'PATCH'),
      path,
      body,
      async (method, at, { content, type }) => {
        const answer = await send(method, at, method === 'GET' ? undefined : content, { 'Content-Type': type });
        expect(answer.status).toBeLessThan(500);
        if (answer.status < 400) return void (await answer.arrayBuffer());
        expect(answer.headers.get('Content-Type')).toContain('application/problem+json');
        expect(await answer.json()).toMatchObject({ status: answer.status, title: expect.stringMatching(/\w/) });
      },
    ),
    { numRuns: 250 },
  );
  expect((await send('GET', '/projects')).status).toBe(200);
});
