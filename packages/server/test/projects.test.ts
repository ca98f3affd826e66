import { decodeProp, readArchive } from '@kelp/formats';
import { describe, expect, it } from 'vitest';
import { NOBODY, PNG, testServer } from './test-server.js';

const { call, fresh, demo } = testServer({ demo: true });

describe('projects and their revisions', () => {
  it('begin as a template lays them out; an unknown one is refused with those there are', async () => {
    const templates = (await call('GET', '/projects/templates')).body as { id: string }[];
    const counts = [];
    for (const { id } of templates) {
      const { body } = await call('POST', '/projects', { name: `From ${id}`, template: id });
      expect(body.document.name).toBe(`From ${id}`);
      counts.push([id, body.document.props.length, body.document.pieces.length]);
    }
    expect(counts).toEqual([
      ['empty', 0, 0],
      ['deck', 3, 0],
      ['farm', 14, 20],
    ]);
    const refused = await call('POST', '/projects', { name: 'a', template: 'castle' });
    expect(refused.status).toBe(400);
    expect(refused.body.detail).toContain('empty, deck, farm');
  });

  it('have a cover once one was drawn; what is no picture is refused, and so is a project that is not there', async () => {
    const { id } = await fresh('Covered');
    expect((await call('GET', `/projects/${id}/cover`)).status).toBe(404);
    const cover = async () =>
      (await call('GET', '/projects')).body.find((project: { id: string }) => project.id === id).cover;
    expect(await cover()).toBeNull();
    expect((await call('PUT', `/projects/${id}/cover`, PNG)).status).toBe(204);
    expect((await call('GET', `/projects/${id}/cover`)).body).toEqual(PNG);
    expect(await cover()).toMatch(/^20/);
    // and whether it shows what was saved last
    const covered = async () => (await call('GET', `/projects/${id}`)).body.covered;
    expect(await covered()).toBe(true);
    const { document, revision } = (await call('GET', `/projects/${id}`)).body;
    await call('PUT', `/projects/${id}`, { basedOn: revision, document });
    expect(await covered()).toBe(false);
    expect((await call('PUT', `/projects/${id}/cover`, Buffer.from('not a picture'))).status).toBe(400);
    expect((await call('PUT', `/projects/${NOBODY}/cover`, PNG)).status).toBe(404);
  });

  it('a save on the newest revision is kept under the next number; the older ones stay', async () => {
    const { id, revision, document } = await fresh('Jetty');
    expect(revision).toBe(1);
    const saved = await call('PUT', `/projects/${id}`, {
      basedOn: 1,
      document: { ...document, name: 'Jetty, winter' },
    });
    expect(saved).toMatchObject({ status: 200, body: { revision: 2, name: 'Jetty, winter' } });
    expect((await call('GET', `/projects/${id}`)).body.document.name).toBe('Jetty, winter');
    expect((await call('GET', `/projects/${id}/revisions/1`)).body.document.name).toBe('Jetty');
    expect((await call('GET', `/projects/${id}/revisions`)).body.map((r: { number: number }) => r.number)).toEqual([
      2, 1,
    ]);
  });

  it('what another Kelp wrote is put right when it comes in, each thing is reported, and the server takes what it holds', async () => {
    const { document } = (await call('GET', `/projects/${(await demo()).id}`)).body;
    document.pieces[0].make.parameters.wobbliness = 7;
    document.pieces[1].make = { unit: 'from-tomorrow', parameters: { depth: [1, { deep: true }] } };
    const came = await call('POST', '/projects/import', Buffer.from(JSON.stringify(document)));
    expect(came).toMatchObject({ status: 201, body: { notes: [expect.stringContaining('wobbliness')] } });
    const stored = came.body.document;
    expect(stored.pieces[0].make.parameters).not.toHaveProperty('wobbliness');
    expect(stored.pieces[1].make).toEqual(document.pieces[1].make);
    const saved = await call('PUT', `/projects/${came.body.id}`, { basedOn: 1, document: stored });
    expect(saved).toMatchObject({ status: 200, body: { revision: 2 } });
  });

  it('a stale save is refused with 409 and changes nothing; of twenty at once, one wins', async () => {
    const { id, document } = await fresh('Race');
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        call('PUT', `/projects/${id}`, { basedOn: 1, document: { ...document, name: `Race ${i}` } }),
      ),
    );
    expect(answers.filter((answer) => answer.status === 200)).toHaveLength(1);
    const stale = answers.filter((answer) => answer.status === 409);
    expect(stale).toHaveLength(19);
    expect(stale[0]).toMatchObject({
      type: expect.stringContaining('application/problem+json'),
      body: { code: 'STALE_REVISION', revision: 2 },
    });
    const now = (await call('GET', `/projects/${id}`)).body;
    expect(now.revision).toBe(2);
    expect(now.document.name).toBe(answers.find((answer) => answer.status === 200)?.body.name);
  });

  it('a deleted project comes back', async () => {
    const { id } = await fresh('Gone');
    expect((await call('DELETE', `/projects/${id}`)).status).toBe(204);
    expect((await call('GET', `/projects/${id}`)).status).toBe(404);
    expect((await call('GET', '/projects?deleted=true')).body.map((project: { id: string }) => project.id)).toContain(
      id,
    );
    expect((await call('POST', `/projects/${id}/restore`)).status).toBe(204);
    expect((await call('GET', `/projects/${id}`)).status).toBe(200);
  });

  it('an archive goes out and comes in again whole', async () => {
    const { id } = await demo();
    const archive = await call('GET', `/projects/${id}/archive`);
    const imported = await call('POST', '/projects/import', archive.body);
    expect(imported.status).toBe(201);
    const original = readArchive('a', archive.body);
    expect(imported.body.document).toEqual(original.document);
    const hash = original.document.props[0].mesh;
    expect((await decodeProp((await call('GET', `/props/${hash}`)).body)).index.length).toBeGreaterThan(0);
  });
});
