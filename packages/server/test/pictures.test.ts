import { contentHash, readArchive } from '@kelp/formats';
import { describe, expect, it } from 'vitest';
import { PNG, testServer } from './test-server.js';

const { call, send, fresh } = testServer();

describe('reference pictures', () => {
  it('are kept by their hash, served as what they are, and go out and in with the project', async () => {
    const image = contentHash(PNG);
    const { id, document: empty } = await fresh('Drawn from a plan');
    const plan = { id: 'plan', name: 'Plan', image, plane: 'top', position: [0, 0, 0], width: 3, aspect: 0.5 };
    const document = { ...empty, pictures: [{ ...plan, opacity: 0.5, visible: true, locked: true }] };
    const save = () => call('PUT', `/projects/${id}`, { basedOn: 1, document });
    // the file goes first: a project never names one that is not there
    expect(await save()).toMatchObject({ status: 422, body: { detail: expect.stringContaining('image "Plan"') } });
    expect((await call('PUT', `/props/${image}`, PNG)).status).toBe(204);
    expect((await save()).status).toBe(200);
    const served = await send('GET', `/props/${image}`);
    expect(served.headers.get('content-type')).toBe('image/png');
    const archive = await call('GET', `/projects/${id}/archive`);
    expect(readArchive('a', archive.body).props.get(image)).toEqual(PNG);
    const again = await call('POST', '/projects/import', archive.body);
    expect(again.body.document.pictures).toEqual(document.pictures);
  });

  it('broken ones are refused', async () => {
    const cut = PNG.subarray(0, 20);
    const refused = await call('PUT', `/props/${contentHash(cut)}`, cut);
    expect(refused).toMatchObject({ status: 400, body: { detail: expect.stringContaining('image') } });
  });
});
