// The workbench in a browser without a graphics card: what a person waits for. Run by `npm run bench -- web`.
import { execFileSync, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { launchOptions } from '../scripts/chromium.mjs';
import { root } from '../scripts/root.mjs';

const data = mkdtempSync(join(tmpdir(), 'kelp-bench-'));
const cli = join(root, 'packages/cli/bin/kelp.js');
const server = spawn(process.execPath, [cli, 'serve', '--port', '0', '--data', data, '--with-demo']);
const url = await new Promise((resolve) =>
  server.stdout.on('data', (chunk) => resolve(String(chunk).match(/http:\S+/)[0])),
);
const browser = await chromium.launch(launchOptions());
const results = [];
const row = (name, value, goal, better = 'less') => results.push({ name, value, goal, better });

try {
  const demo = (await (await fetch(`${url}/api/projects`)).json())[0].id;
  await firstLoad();
  const opening = await open(demo, 9);
  const many = await manyPieces(demo, 500);
  row(
    'Opening a project of 500 pieces to its first picture, against the demo',
    (await open(many, 500)).ms / opening.ms,
    3,
  );
  await clicking(await corners(12));
  await openingMany(await corners(112), opening.ms);
  await drawing(await manyElements(demo, 100_000));
  await dragging(demo);
} finally {
  await browser.close();
  server.kill();
  rmSync(data, { recursive: true, force: true });
}
const ok = ({ value, goal, better }) => (better === 'more' ? value >= goal : value <= goal);
for (const result of results)
  console.log(
    `${ok(result) ? 'ok  ' : 'MISS'} ${result.value.toFixed(2).padStart(8)}  (at most ${result.goal})  ${result.name}`,
  );
const out = join(root, 'bench', 'out');
mkdirSync(out, { recursive: true });
writeFileSync(join(out, 'web.json'), `${JSON.stringify(results, null, 2)}\n`);

async function newPage() {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.setDefaultTimeout(180_000);
  await page.addInitScript(watch);
  return page;
}

/** In the page: notes when the worker answers, when new geometry reaches the renderer, and frames. */
function watch() {
  localStorage.setItem('kelp-tour', 'seen');
  const seen = { answers: [], uploads: [], copies: [], frames: 0, firstDraw: 0 };
  window.seen = seen;
  addEventListener('pointerdown', (event) => Object.assign(seen, { pressedAt: event.timeStamp }), true);
  const tick = () => {
    seen.frames++;
    requestAnimationFrame(tick);
  };
  requestAnimationFrame(tick);
  // the page has answered once its stem is the piece's; when that is on the screen hangs on who draws it
  new MutationObserver(() => {
    const heading = document.querySelector('[aria-label="Stem"] h2')?.textContent;
    if (heading !== seen.heading) Object.assign(seen, { heading, headingAt: performance.now() });
  }).observe(document, { childList: true, subtree: true, characterData: true });
  const Plain = window.Worker;
  window.Worker = class extends Plain {
    constructor(...args) {
      super(...args);
      this.addEventListener('message', ({ data }) => {
        if (data.kind === 'piece')
          seen.answers.push({ frame: seen.frames, vertices: data.build?.parts[0]?.mesh?.position.length });
      });
    }
  };
  const { bufferData, drawElements, drawElementsInstanced } = WebGL2RenderingContext.prototype;
  WebGL2RenderingContext.prototype.bufferData = function (target, content, ...rest) {
    if (content?.length) seen.uploads.push({ frame: seen.frames, length: content.length });
    return bufferData.call(this, target, content, ...rest);
  };
  WebGL2RenderingContext.prototype.drawElements = function (...args) {
    seen.firstDraw ||= performance.now();
    return drawElements.apply(this, args);
  };
  WebGL2RenderingContext.prototype.drawElementsInstanced = function (...args) {
    seen.copies.push({ frame: seen.frames, count: args[4] });
    return drawElementsInstanced.apply(this, args);
  };
}

/** Compressed bytes of scripts, styles and fonts until the first page stands, and until a project stands open. */
async function firstLoad() {
  const page = await newPage();
  const session = await page.context().newCDPSession(page);
  await session.send('Network.enable');
  const kinds = new Map();
  let bytes = 0;
  session.on('Network.responseReceived', ({ requestId, type }) => kinds.set(requestId, type));
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (['Script', 'Stylesheet', 'Document'].includes(kinds.get(requestId))) bytes += encodedDataLength;
  });
  await page.goto(url);
  await page.getByRole('list', { name: 'Projects' }).waitFor();
  row('First load, kB compressed', bytes / 1000, 600);
  await page.getByRole('list', { name: 'Projects' }).getByRole('link').click();
  await page.getByText(/tri$/).first().waitFor();
  row('The same with a project open: view, worker and panels, kB compressed', bytes / 1000, 800);
  await page.close();
}

/** Opens a project once to warm up, then again; milliseconds to the first picture that holds a piece. */
async function open(id, pieces) {
  let ms = Infinity;
  for (let i = 0; i < 3; i++) {
    const page = await newPage();
    await page.goto(`${url}/project/${id}`);
    await page.waitForFunction(() => window.seen.firstDraw > 0 && window.seen.answers.length > 0);
    ms = Math.min(ms, await page.evaluate(() => window.seen.firstDraw));
    if (i === 0) await page.waitForFunction((count) => window.seen.answers.length >= count, pieces);
    await page.close();
  }
  return { ms };
}

/** The demo's corner this many times side by side. */
async function corners(times) {
  const file = join(data, `corners-${times}.kelp`);
  execFileSync(process.execPath, [cli, 'demo', '--times', String(times), '--out', file]);
  return imported(readFileSync(file));
}

async function imported(body) {
  const answer = await fetch(`${url}/api/projects/import`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body,
  });
  if (!answer.ok) throw new Error(await answer.text());
  return (await answer.json()).id;
}

/** Chooses pieces in the manifest while all of them are still being made: the longest wait for the stem to be that of one. */
async function clicking(id) {
  const page = await newPage();
  await page.goto(`${url}/project/${id}`);
  const pieces = page.getByRole('region', { name: 'Pieces' });
  await pieces
    .getByRole('button', { name: /^Shore power/ })
    .first()
    .waitFor();
  let longest = 0;
  let clicks = 0;
  for (const name of ['Lamp line', 'Mooring line', 'Bridge hose', 'Sensor lead', 'Crate strap', 'Hose coil']) {
    const row = await pieces
      .getByRole('button', { name: new RegExp(`^${name}`) })
      .first()
      .boundingBox();
    await page.mouse.click(row.x + 60, row.y + row.height / 2);
    await page.waitForFunction((wanted) => window.seen.heading === wanted, name);
    longest = Math.max(longest, await page.evaluate(() => window.seen.headingAt - window.seen.pressedAt));
    clicks++;
    await page.waitForTimeout(150);
  }
  row(`Longest of ${clicks} clicks while 12 corners are made, until the stem is the piece’s, ms`, longest, 300);
  await page.close();
}

/** 1,008 pieces over 1,344 props: the first picture, what the page's thread does meanwhile, and that it gets done. */
async function openingMany(id, demoMs) {
  const page = await newPage();
  let first = 0;
  const longest = await longestTask(async () => {
    await page.goto(`${url}/project/${id}`);
    await page.waitForFunction(() => window.seen.firstDraw > 0);
    first = await page.evaluate(() => window.seen.firstDraw);
    await page.waitForFunction(() => window.seen.answers.length >= 1008);
    await page.getByRole('status', { name: 'Progress' }).waitFor({ state: 'hidden' });
  });
  row('First picture of 112 corners, against the demo', first / demoMs, 4);
  row('Longest task until all of 112 corners are made, ms of the page’s thread', longest, 100);
  await page.close();
}

/** A project of many pieces on the demo's props, each along a line of its own. */
async function manyPieces(demo, count) {
  const { document } = await (await fetch(`${url}/api/projects/${demo}`)).json();
  const model = document.pieces.find(({ id }) => id === 'sensor-lead');
  const lines = document.curves.filter(({ id }) => model.path.parameters.curves.includes(id));
  const curves = [];
  const pieces = [];
  for (let i = 0; i < count; i++) {
    const by = [(i % 25) * 0.2 - 3, 1.2 + Math.floor(i / 25) * 0.1, 0];
    curves.push({
      ...lines[0],
      id: `line-${i}`,
      points: lines[0].points.map(({ anchor, ...point }) => ({
        ...point,
        position: point.position.map((v, k) => v + by[k]),
      })),
    });
    pieces.push({
      ...model,
      id: `piece-${i}`,
      name: `Lead ${i + 1}`,
      shape: [],
      path: { ...model.path, parameters: { ...model.path.parameters, curves: [`line-${i}`] } },
    });
  }
  return imported(JSON.stringify({ ...document, name: 'Many', curves, pieces }));
}

/** A project of one line with this many elements on it, each a millimetre. */
async function manyElements(demo, count) {
  const { document } = await (await fetch(`${url}/api/projects/${demo}`)).json();
  const model = document.pieces.find(({ id }) => id === 'sensor-lead');
  const point = { corner: false, radius: 1 };
  const curve = { id: 'line', name: 'Line', closed: false };
  const points = [0, count / 1000].map((x) => ({ ...point, position: [x, 0, 0] }));
  const place = {
    unit: 'place',
    parameters: { parts: [{ part: 'block', times: 1, size: 1 }], size: 0.0005, spacing: 0.001 },
  };
  const piece = {
    ...model,
    shape: [],
    path: { ...model.path, parameters: { ...model.path.parameters, curves: ['line'] } },
    make: { ...model.make, ...place },
  };
  const lists = { props: [], pictures: [], profiles: [], regions: [], pieces: [piece], curves: [{ ...curve, points }] };
  return imported(JSON.stringify({ ...document, ...lists, name: 'Parts' }));
}

/** Draw calls that the elements of one piece take in a picture: of the fullest, with its shadows. */
async function drawing(id) {
  const page = await newPage();
  await page.goto(`${url}/project/${id}`);
  await page.waitForFunction(() => window.seen.copies.some(({ count }) => count > 1000));
  await page.waitForTimeout(10_000);
  const copies = await page.evaluate(() => window.seen.copies);
  const calls = new Map();
  for (const { frame } of copies) calls.set(frame, (calls.get(frame) ?? 0) + 1);
  row('Draw calls of one picture of 100,000 elements, shadows included', Math.max(...calls.values()), 10);
  row('Elements drawn by its largest call', Math.max(...copies.map(({ count }) => count)), 100_000, 'more');
  await page.close();
}

/**
 * The longest task of the page's thread while `work` runs, as time the thread itself worked, milliseconds. Where a
 * processor draws the picture, it draws on the same cores: the time by the clock says how busy those are, not how long
 * the page takes.
 */
async function longestTask(work) {
  const events = [];
  const session = await browser.newBrowserCDPSession();
  session.on('Tracing.dataCollected', ({ value }) => events.push(...value));
  await session.send('Tracing.start', {
    transferMode: 'ReportEvents',
    traceConfig: { includedCategories: ['devtools.timeline', 'toplevel', 'disabled-by-default-devtools.timeline'] },
  });
  await work();
  const ended = new Promise((resolve) => session.once('Tracing.tracingComplete', resolve));
  await session.send('Tracing.end');
  await ended;
  await session.detach();
  // the browser has pages of its own beside this one
  const own = new Set(events.filter(({ args }) => args?.data?.url?.startsWith?.(url)).map(({ pid }) => pid));
  const main = new Set(
    events
      .filter(({ name, pid, args }) => name === 'thread_name' && args.name === 'CrRendererMain' && own.has(pid))
      .map(({ pid, tid }) => `${pid} ${tid}`),
  );
  const tasks = events.filter(
    (event) => /RunTask$/.test(event.name) && event.tdur && main.has(`${event.pid} ${event.tid}`),
  );
  if (tasks.length === 0) throw new Error('The browser traced no task');
  return Math.max(...tasks.map(({ tdur }) => tdur)) / 1000;
}

/** Drags a slider, lets it save, bakes: frames from answer to picture, and the longest the page stood still. */
async function dragging(id) {
  const page = await newPage();
  await page.goto(`${url}/project/${id}`);
  await page.getByText(/tri$/).first().waitFor();
  await page
    .getByRole('region', { name: 'Pieces' })
    .getByRole('button', { name: /^Mooring line/ })
    .click();
  const slider = page.getByRole('slider', { name: 'Radius', exact: true });
  await slider.waitFor();
  // pictures of the gallery, the cover and the piece are drawn after the view has come to rest
  await page.waitForTimeout(8000);
  const thumb = await slider.locator('xpath=..').boundingBox();
  const [x, y] = [thumb.x + thumb.width / 2, thumb.y + thumb.height / 2];
  await page.evaluate(() => {
    window.seen.answers.length = window.seen.uploads.length = 0;
  });
  let from = x;
  // there and back and there again: what the page does for the first time, like the first cover, is not the drag's
  const drags = [];
  for (const by of [1, -1, 1]) {
    drags.push(
      await longestTask(async () => {
        await page.mouse.move(from, y);
        await page.mouse.down();
        for (let i = 1; i <= 16; i++) {
          await page.mouse.move(from + by * i, y);
          await page.waitForTimeout(60);
        }
        await page.mouse.up();
        await page.waitForTimeout(2500);
      }),
    );
    from += by * 16;
  }
  const { answers, uploads } = await page.evaluate(() => window.seen);
  const waits = answers.flatMap(({ frame, vertices }) => {
    const upload = uploads.find((one) => one.frame >= frame && one.length === vertices);
    return upload ? [upload.frame - frame] : [];
  });
  waits.sort((a, b) => a - b);
  if (waits.length === 0) throw new Error('No answer of the drag reached the picture');
  row(
    'Frames from the worker’s answer to the new draft in the picture (9 of 10 drags)',
    waits[Math.floor(waits.length * 0.9)],
    2,
  );
  const middle = drags.toSorted((a, b) => a - b)[1];
  row('Longest task while dragging and saving, ms of the page’s thread, middle of three drags', middle, 50);
  console.log(`     drags: ${drags.map((ms) => ms.toFixed(1)).join(', ')} ms`);
  await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
  await page.getByRole('button', { name: 'Bake to GLB' }).waitFor();
  const whileBaking = await longestTask(async () => {
    await page.getByRole('button', { name: 'Bake to GLB' }).click();
    await page.getByRole('link', { name: 'Download' }).waitFor();
    await page.waitForTimeout(500);
  });
  row('Longest task while baking, ms of the page’s thread', whileBaking, 50);
  await page.close();
}
