import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { compileStages } from '@grammata/core/perform';
import { enact, holdAll, type Proof } from '@grammata/core/proof';
import { ROUTE_FORMAT, usualTerms, type RouteDefinition } from '@grammata/core/route';
import { Problem } from '@grammata/core/transform';
import { filesOf, type Workspace } from '@grammata/core/workspace';
import { writeFiles } from '../packages/cli/src/workspace';
import { route, samples } from './cases';

const target = { id: 't', name: 'Bench', baseUrl: route.baseUrl, operations: [route.operation] };

function playOf(call: typeof route.call) {
  const stages = compileStages([call], [target]);
  if (stages instanceof Problem) throw stages;
  return { stages, condition: { all: [] }, context: { timeZone: 'UTC' } };
}

function proofsOf(count: number, call: typeof route.call): (Proof & { name: string })[] {
  const play = playOf(call);
  return samples(count).map(({ submission }, at) => ({
    id: `p${at}`,
    name: `Sample ${at}`,
    submission,
    answers: {},
    calls: [call],
    approved: enact(play, submission, {}),
    loose: [],
  }));
}

export interface ProofFigures {
  /** ms until 500 proofs of a route with 20 lines are held against an edit: the shortest of several. */
  held: number;
  /** How many of them the edit changes. */
  differing: number;
  /** ms that the command line takes to check a folder of 20 routes and 2,000 proofs. */
  folder: number;
}

/** Holds 500 proofs against an edit, and a folder of 20 routes with 100 proofs each by the command line. */
export async function proofFigures(): Promise<ProofFigures> {
  const call = { ...route.call, targetId: 't' };
  const proofs = proofsOf(500, call);
  const edited = { ...call, lines: call.lines.map((each, at) => (at === 3 ? { ...each, cleaning: [] } : each)) };
  let held = Infinity;
  let differing = 0;
  for (let time = 0; time < 5; time++) {
    const started = performance.now();
    const all = holdAll(playOf(edited), proofs);
    held = Math.min(held, performance.now() - started);
    differing = all.filter(each => each.differences.length > 0).length;
  }
  const definition = (name: string): RouteDefinition => ({
    format: ROUTE_FORMAT,
    name,
    condition: { all: [] },
    calls: [call],
    terms: { ...usualTerms, timeZone: 'UTC' },
  });
  const form = { name: 'Bench', key: 'bench', samples: [] };
  const workspace: Workspace = {
    intakes: [{ name: 'Bench', settings: {}, forms: [form] }],
    targets: [{ ...target, reached: {} }],
    routes: Array.from({ length: 20 }, (_, at) => ({
      form,
      definition: definition(`Route ${at}`),
      proofs: proofs.slice(at * 20, at * 20 + 100),
    })),
  };
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-proofs-'));
  try {
    await writeFiles(folder, filesOf(workspace));
    const started = performance.now();
    execFileSync(process.execPath, [path.resolve('packages/cli/bin/grammata.mjs'), 'proof', '--workspace', folder]);
    return { held, differing, folder: performance.now() - started };
  } finally {
    rmSync(folder, { recursive: true });
  }
}
