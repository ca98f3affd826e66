import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type KelpDocument, units } from '@kelp/core';
import { readArchive, readModel, writeArchive } from '@kelp/formats';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';

const bin = fileURLToPath(new URL('../bin/kelp.js', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'kelp-cli-'));
const demo = join(folder, 'demo.kelp');
const kelp = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [bin, ...args], { encoding: 'utf8', cwd: folder });
  return { status, stdout, stderr };
};
beforeAll(() => {
  expect(kelp('demo', '--out', demo).status).toBe(0);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** The demo with one change, as a file. */
function changed(name: string, change: (document: KelpDocument) => void): string {
  const project = readArchive('demo', readFileSync(demo));
  change(project.document);
  const file = join(folder, name);
  writeFileSync(file, writeArchive(project));
  return file;
}

it('bake --json prints one JSON value and writes the file it speaks of', async () => {
  const out = join(folder, 'hose.glb');
  const { status, stdout, stderr } = kelp(
    'bake',
    demo,
    '--piece',
    'Bridge hose',
    '--density',
    '2',
    '--out',
    out,
    '--json',
  );
  expect({ status, stderr }).toEqual({ status: 0, stderr: '' });
  const report = JSON.parse(stdout);
  expect(Object.keys(report)).toEqual(['pieces', 'bytes', 'seconds']);
  expect(Object.keys(report.pieces[0])).toEqual(['name', 'length', 'triangles', 'vertices', 'findings']);
  const bytes = readFileSync(out);
  expect(bytes.length).toBe(report.bytes);
  // it does not hold its project: it cannot be baked again from the file alone
  expect(kelp('bake', out, '--out', join(folder, 'again.glb')).stderr).toContain('does not include its project');
  const { objects } = await readModel('hose.glb', bytes);
  expect(objects[0].mesh.index.length / 3).toBe(report.pieces[0].triangles);
});

it('bake takes several projects at once, lighter and merged; watch bakes again only what changed; frames are numbered', () => {
  const renamed = changed('second.kelp', (document) => {
    document.pieces[0].name = 'Feed';
  });
  const out = join(folder, 'many');
  const many = kelp(
    'bake',
    join(folder, 's*.kelp'),
    demo,
    '--out',
    out,
    '--format',
    'obj',
    '--jobs',
    '2',
    '--piece',
    'Fenders',
    '--piece',
    'Lamp line',
    '--within',
    '1',
    '--merge',
    'material',
    '--unit',
    'cm',
    '--json',
  );
  expect(many).toMatchObject({ status: 0, stderr: '' });
  const { files } = JSON.parse(many.stdout);
  expect(files.map(({ out: to }: { out: string }) => to)).toEqual([join(out, 'second.obj'), join(out, 'demo.obj')]);
  expect(readdirSync(out).sort()).toEqual(['demo.mtl', 'demo.obj', 'second.mtl', 'second.obj']);
  const [lean, materials] = ['second.obj', 'second.mtl'].map((name) => readFileSync(join(out, name), 'utf8'));
  expect(lean).toContain('mtllib second.mtl');
  expect(lean.match(/^o /gm)).toHaveLength(2);
  for (const [, name] of lean.matchAll(/^usemtl (.*)$/gm)) expect(materials).toContain(`newmtl ${name}\n`);
  // centimetres: the lamp line hangs above two metres
  expect(Math.max(...[...lean.matchAll(/^v \S+ (\S+)/gm)].map(([, y]) => Number(y)))).toBeGreaterThan(200);
  expect(files[0].pieces.every(({ off }: { off: number }) => off <= 0.001)).toBe(true);
  expect(kelp('bake', renamed, demo, '--out', out)).toMatchObject({
    status: 2,
    stderr: expect.stringContaining('need --format'),
  });
  expect(kelp('bake', join(folder, 'nothing*.kelp'), '--out', out, '--format', 'glb')).toMatchObject({
    status: 2,
    stderr: expect.stringContaining('No file matches'),
  });
  expect(kelp('bake', demo, '--out', join(folder, 'x.glb'), '--within', '0')).toMatchObject({ status: 2 });

  const watched = join(folder, 'watched');
  expect(
    kelp('watch', demo, '--out', watched, '--once', '--format', 'stl', '--piece', 'Fenders', '--piece', 'Lamp line'),
  ).toMatchObject({ status: 0, stderr: '' });
  expect(readdirSync(watched).sort()).toEqual(['Fenders.stl', 'Lamp-line.stl']);
  expect(kelp('bake', demo, '--out', join(folder, 'f.glb'), '--piece', 'Fenders', '--frames', '0-1')).toMatchObject({
    status: 0,
  });
  expect(readdirSync(folder).filter((name) => name.startsWith('f.'))).toEqual(['f.0000.glb', 'f.0001.glb']);
});

it('watch bakes again what changed, and only that, until it is stopped', async () => {
  const file = changed('live.kelp', () => {});
  const out = join(folder, 'live');
  const watcher = spawn(
    process.execPath,
    [bin, 'watch', file, '--out', out, '--piece', 'Fenders', '--piece', 'Lamp line'],
    { cwd: folder },
  );
  let said = '';
  watcher.stdout.on('data', (chunk) => {
    said += chunk;
  });
  const until = (words: RegExp) => vi.waitFor(() => expect(said).toMatch(words), { timeout: 60_000, interval: 50 });
  await until(/Watching/);
  expect(said.match(/bytes/g)).toHaveLength(2);
  said = '';
  changed('live.kelp', ({ pieces }) => {
    const line = pieces.find(({ name }) => name === 'Lamp line');
    Object.assign(line!.make.parameters, { radius: 0.02 });
  });
  await until(/Lamp-line\.glb: .* bytes/);
  expect(said).not.toContain('Fenders');
  said = '';
  writeFileSync(file, 'broken');
  let errors = '';
  watcher.stderr.on('data', (chunk) => {
    errors += chunk;
  });
  await vi.waitFor(() => expect(errors).toMatch(/live\.kelp/), { timeout: 60_000, interval: 50 });
  watcher.kill('SIGINT');
  expect((await once(watcher, 'exit'))[0]).toBe(130);
  expect(readdirSync(out).sort()).toEqual(['Fenders.glb', 'Lamp-line.glb']);
});

it('convert writes meshes and curves in other formats, with the same places; what a format cannot hold is reported', async () => {
  const at = (name: string) => join(folder, name);
  expect(kelp('bake', demo, '--piece', 'Crate strap', '--out', at('strap.glb'))).toMatchObject({ status: 0 });
  const given = await readModel('strap.glb', readFileSync(at('strap.glb')));
  const area = (position: ArrayLike<number>) => Array.from(position).reduce((sum, value) => sum + Math.abs(value), 0);
  for (const ending of ['obj', 'ply', 'stl']) {
    expect(kelp('convert', at('strap.glb'), at(`strap.${ending}`), '--json')).toMatchObject({ status: 0, stderr: '' });
    const read = await readModel(`strap.${ending}`, readFileSync(at(`strap.${ending}`)));
    expect(read.objects[0].mesh.index.length).toBe(given.objects[0].mesh.index.length);
    const corners = ({ position, index }: (typeof read)['objects'][0]['mesh']) =>
      area(Array.from(index, (i) => position[3 * i + 1]));
    expect(corners(read.objects[0].mesh) / corners(given.objects[0].mesh)).toBeCloseTo(1, 5);
  }
  writeFileSync(at('line.csv'), 'x,y,z\n0,0,0\n1000,0,0\n1000,500,0\n');
  expect(kelp('convert', at('line.csv'), at('line.obj'), '--unit', 'mm', '--json')).toMatchObject({ status: 0 });
  expect(readFileSync(at('line.obj'), 'utf8')).toMatch(/v 1 0\.5 0\nl 1 2 3\n/);
  expect(kelp('convert', at('line.csv'), at('line.stl'))).toMatchObject({
    status: 2,
    stderr: expect.stringContaining('STL holds triangles'),
  });
  expect(kelp('convert', at('strap.glb'), at('strap.csv'))).toMatchObject({
    status: 2,
    stderr: expect.stringContaining('CSV holds curves'),
  });
  expect(kelp('convert', demo, at('x.glb'))).toMatchObject({ status: 2, stderr: expect.stringContaining('kelp bake') });
});

describe('check', () => {
  it('exits with 0 on the demo, with 1 once a cable cuts into the pier', () => {
    expect(kelp('check', demo)).toMatchObject({ status: 0, stdout: 'No findings.\n' });
    const sunk = changed('sunk.kelp', ({ pieces }) => {
      const power = pieces.find((piece) => piece.name === 'Shore power');
      if (power) power.shape.at(-1)!.parameters['gap'] = -0.015;
    });
    const { status, stdout } = kelp('check', sunk, '--json');
    expect(status).toBe(1);
    expect(JSON.parse(stdout)[0]).toMatchObject({
      piece: 'Shore power',
      code: 'cuts-prop',
      severity: 'error',
      fix: { kind: 'set-shape' },
    });
  });
});

it('list reports every unit with its parameters, their units of measure and ranges', () => {
  expect(JSON.parse(kelp('list', '--json').stdout).map((unit: { id: string }) => unit.id)).toEqual(
    units.map((unit) => unit.id),
  );
  const cable = JSON.parse(kelp('list', 'cable', '--json').stdout);
  expect(cable.parameters.find((parameter: { name: string }) => parameter.name === 'radius')).toMatchObject({
    unit: 'm',
    min: 1e-5,
    max: 100,
    along: true,
  });
  expect(kelp('list', 'cable').stdout).toContain('radius: Distance from the line to the surface');
});

it('serve sends the interface pressed; backup copies a database that is running; restore brings it back, and keeps what was there', async () => {
  const data = join(folder, 'data');
  const child = spawn(process.execPath, [bin, 'serve', '--port', '0', '--data', data, '--with-demo'], { cwd: folder });
  const url = await new Promise<string>((done) =>
    child.stdout.on('data', (chunk) => done(String(chunk).match(/http:\S+/)?.[0] ?? '')),
  );
  // its interface goes out as the build has pressed it
  const script = (await (await fetch(url)).text()).match(/\/assets\/[^"]+\.js/)?.[0] ?? '';
  const written = readFileSync(join(bin, '../../../web/dist', script), 'utf8');
  for (const encoding of ['br', 'gzip', 'identity']) {
    const answer = await fetch(url + script, { headers: { 'Accept-Encoding': encoding } });
    expect(answer.headers.get('Content-Encoding') ?? 'identity').toBe(encoding);
    expect(await answer.text()).toBe(written);
  }
  const copy = join(folder, 'copy.sqlite');
  const holds = JSON.parse(kelp('backup', '--data', data, '--out', copy, '--json').stdout);
  expect(holds).toEqual({ projects: 7, revisions: 7, files: expect.any(Number) });
  expect(kelp('restore', copy, '--data', data)).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('Stop it first'),
  });
  const [{ id }] = await (await fetch(`${url}/api/projects`)).json();
  await fetch(`${url}/api/projects/${id}`, { method: 'DELETE' });
  const ended = once(child, 'exit');
  child.kill('SIGTERM');
  await ended;
  const { before, ...restored } = JSON.parse(kelp('restore', copy, '--data', data, '--json').stdout);
  expect(restored).toEqual(holds);
  expect(kelp('restore', before, '--data', join(folder, 'other')).status).toBe(0);
  // damage is reported, and changes nothing
  const damaged = readFileSync(copy);
  damaged.fill(0x55, 5000, 60_000);
  const file = join(folder, 'damaged.sqlite');
  writeFileSync(file, damaged);
  const stands = readFileSync(join(data, 'kelp.sqlite'));
  for (const broken of [file, demo])
    expect(kelp('restore', broken, '--data', data)).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('not a valid Kelp database'),
    });
  expect(readFileSync(join(data, 'kelp.sqlite')).equals(stands)).toBe(true);
}, 60_000);

describe('exit codes and words', () => {
  const broken = (content: string) => {
    const file = join(folder, 'broken.kelp');
    writeFileSync(file, content);
    return file;
  };
  it.each<[string, () => string[], number, string]>([
    ['no file', () => ['check', 'nowhere.kelp'], 1, 'no file'],
    ['an empty file', () => ['check', broken('')], 1, 'is empty'],
    ['not an archive', () => ['check', broken('hello')], 1, 'not a Kelp archive'],
    ['a newer version', () => ['check', broken('{"format":"kelp-project","version":9}')], 1, 'newer Kelp'],
    ['a wrong field', () => ['check', broken('{"format":"kelp-project","version":1,"name":5}')], 1, 'name'],
    ['an unknown piece', () => ['bake', demo, '--piece', 'Noodle', '--out', 'x.glb'], 1, 'No piece is called "Noodle"'],
    ['an unknown unit', () => ['list', 'noodle'], 1, 'No unit is called "noodle"'],
    ['no command', () => ['fly'], 2, 'unknown command'],
    ['corners that are none', () => ['demo', '--times', '0', '--out', 'x.kelp'], 2, '1 to 160'],
    ['a missing option', () => ['bake', demo], 2, '--out'],
    ['a density that is none', () => ['bake', demo, '--out', 'x.glb', '--density', 'much'], 2, '0.05 to 20'],
    ['a format that is not written', () => ['bake', demo, '--out', 'x.xyz'], 2, 'writes .glb'],
    ['an output that is the input', () => ['bake', asGlb(), '--out', asGlb()], 2, 'is the input file'],
    ['a folder that is not there', () => ['bake', demo, '--out', 'nowhere/x.glb'], 1, 'is not a folder'],
    ['a port that is none', () => ['serve', '--port', '99999'], 2, 'whole number'],
  ])('%s', (_name, args, status, words) => {
    const result = kelp(...args());
    expect(result.status).toBe(status);
    expect(result.stderr).toContain(words);
    expect(result.stdout).toBe('');
  });

  it.each<[string, () => string[], number, string]>([
    ['failed input', () => ['check', broken('hello'), '--json'], 1, 'BAD_FILE'],
    ['no file', () => ['check', 'nowhere.kelp', '--json'], 1, 'ENOENT'],
    ['wrong use', () => ['bake', demo, '--out', 'x.xyz', '--json'], 2, 'USAGE'],
    ['an option that is none', () => ['check', demo, '--json', '--fast'], 2, 'USAGE'],
  ])('with --json %s is one JSON value too', (_name, args, status, code) => {
    const result = kelp(...args());
    expect(result.status).toBe(status);
    expect(JSON.parse(result.stdout)).toEqual({
      error: { code, message: expect.any(String), issues: expect.any(Array) },
    });
  });
});

/** The demo under a name that could be an output. */
function asGlb(): string {
  const file = join(folder, 'demo.glb');
  writeFileSync(file, readFileSync(demo));
  return file;
}

describe('a bake that does not come to its end leaves the file of the last one whole', () => {
  const out = join(folder, 'kept.glb');
  const before = new Uint8Array(20_000).fill(7);

  it('when there is no room for the new one', () => {
    writeFileSync(out, before);
    // a limit on the size of files represents a full disk: the write fails half-way
    const { status, stderr } = spawnSync(
      'bash',
      ['-c', `ulimit -f 16; exec "${process.execPath}" "${bin}" bake "${demo}" --out "${out}"`],
      { encoding: 'utf8', cwd: folder, timeout: 20_000 },
    );
    expect({ status, reported: stderr.startsWith('kelp: ') }).toEqual({ status: 1, reported: true });
    expect(new Uint8Array(readFileSync(out))).toEqual(before);
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  it('when it is stopped at any time', async () => {
    const whole = join(folder, 'whole.glb');
    kelp('bake', demo, '--out', whole);
    const results = [before, new Uint8Array(readFileSync(whole))].map((bytes) => Buffer.from(bytes).toString('base64'));
    for (let stop = 0; stop < 6; stop++) {
      writeFileSync(out, before);
      const child = spawn(process.execPath, [bin, 'bake', demo, '--out', out], { cwd: folder });
      const ended = once(child, 'exit');
      await new Promise((done) => setTimeout(done, 400 + 350 * stop));
      child.kill('SIGINT');
      await ended;
      expect(results).toContain(readFileSync(out).toString('base64'));
    }
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
  });
});
