import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { attackApi } from './api';
import { attackConnections } from './connections';
import { attackDisk } from './disk';
import { killRounds } from './kill';
import { attackLoads } from './loads';
import { attackMessages } from './messages';
import { checkPromises } from './promises';
import { scale } from './scale';
import { attackTls } from './tls';
import { attackWaits, LONGEST_WAIT } from './waits';
import { root } from './server';

// Everything here is bounded in count and time, stops by itself, and speaks to this machine only.

const seed = Number(process.env.SEED ?? 20261126);
const only = process.argv.slice(2);
const say = (...words: unknown[]) => console.log(...words);
const wants = (name: string) => only.length === 0 || only.includes(name);
say(`seed ${seed}`);

if (wants('messages')) {
  const { tried, seconds, thrown, slowest, over, memory } = attackMessages(
    Number(process.env.TIMES ?? 1_000_000),
    { seconds: 900 },
    seed,
  );
  say(
    `messages: ${tried} mutated and all crafted ones in ${Math.round(seconds)} s; thrown ${thrown.length}; slowest crafted “${slowest.name}”, ${Math.round(slowest.perMegabyte)} ms per MB; most memory for one ${Math.round(memory)} MB`,
  );
  say(`  over 1 s per MB: ${over.join(', ') || 'none'}`);
  thrown.slice(0, 10).forEach(each => say(`  ${each}`));
}
if (wants('api')) {
  const { failed, statuses, lives } = await attackApi(15_000, seed);
  say(
    `API: 15,000 odd requests, ${failed.length} failed inside; ${[...statuses]
      .sort(([a], [b]) => a - b)
      .map(([status, n]) => `${n} × ${status}`)
      .join(', ')}; it ${lives ? 'lives' : 'ended'}`,
  );
  failed.slice(0, 10).forEach(each => say(`  ${each}`));
}
if (wants('connections')) {
  const { waiting, growth, meanwhile, descriptorsAfter } = await attackConnections();
  say(
    `connections: ${waiting} bodies of 0.9 MB half sent, memory grew by ${Math.round(growth)} MB; a whole one meanwhile took ${Math.round(meanwhile)} ms; ${descriptorsAfter} descriptors more afterwards`,
  );
}
if (wants('waits')) {
  const { sent, slowest, over } = await attackWaits();
  say(
    `waits: ${sent} costly messages; another request waited ${Math.round(slowest.ms)} ms at most (${slowest.what}, after ${slowest.after}); ${over.length} waited more than ${LONGEST_WAIT} ms`,
  );
  over.slice(0, 10).forEach(each => say(`  ${each}`));
}
if (wants('loads')) {
  const { grown, reading } = await attackLoads();
  say(
    `loads: ${Math.round(reading.rate)} small submissions a second, ${Math.round(100 * reading.share)} % of them read when the last was taken in; memory grew by ${Math.round(grown.files)} MB with 40 forms that hold a file of 50 MB, by ${Math.round(grown.texts)} MB with 40 texts of 50 MB`,
  );
}
if (wants('promises'))
  for (const { promise, passed, failed } of checkPromises()) {
    say(`${promise}: ${passed} hold, ${failed.length} do not`);
    failed.slice(0, 10).forEach(each => say(`  ${each}`));
  }
if (wants('tls'))
  for (const { certificate, ok, verdict } of await attackTls())
    say(`TLS, ${certificate}: ${ok ? 'read' : 'refused'}; ${verdict}`);
if (wants('disk')) {
  const figures = await attackDisk();
  say(
    figures
      ? `disk full (${figures.by}): ${figures.acknowledged} acknowledged, ${figures.refused} refused with 503, ${figures.lost} lost; told: ${figures.told}; goes on: ${figures.goesOn}`
      : 'disk full: nothing can be mounted here; the unit test bounds the database instead',
  );
}
if (wants('kill')) {
  const figures = await killRounds(Number(process.env.ROUNDS ?? 20));
  say(
    `SIGKILL at full load, ${figures.rounds} rounds: ${figures.acknowledged} acknowledged, ${figures.lost.length} lost, ${figures.twice.length} records twice, ${figures.filesLost} files lost, ${figures.filesTwice} twice, ${figures.keysUsedTwice} keys for two requests`,
  );
}
if (wants('power')) {
  // The same harness as in the unit tests: it has to see each flush, so that the server runs in its process.
  const cuts = process.env.CUTS ?? '200';
  const { status } = spawnSync(
    path.join(root, 'node_modules/.bin/jest'),
    ['packages/server/src/powerCuts.test.ts', '--forceExit'],
    { cwd: root, env: { ...process.env, CUTS: cuts }, stdio: ['ignore', 'ignore', 'inherit'] },
  );
  say(
    `power: ${cuts} cuts, ${status === 0 ? 'nothing acknowledged lost, nothing under two keys, no empty file' : 'it failed: see above'}`,
  );
}
if (wants('scale')) {
  const { pages, before, after, restart } = await scale();
  say(
    `scale, 500,000 of each: intake ${Math.round(before)}/s empty, ${Math.round(after)}/s full (${(after / before).toFixed(2)} ×); restart ${Math.round(restart)} ms`,
  );
  for (const { page, milliseconds, kilobytes } of pages)
    say(
      `  ${milliseconds > 300 ? '!' : ' '} ${page.padEnd(60)} ${String(Math.round(milliseconds)).padStart(5)} ms ${String(Math.round(kilobytes)).padStart(6)} kB`,
    );
}
