import { DefinitionInput, IntakeInput, PinsInput, TargetInput } from '@grammata/contract';
import { isJsonObject, type Json } from '@grammata/core/submission';
import { workspaceSchemas, type FileKind, type WorkspaceFiles } from '@grammata/core/workspace';
import Ajv2020, { type ValidateFunction } from 'ajv/dist/2020.js';
import { Router } from 'express';
import { actorOf, compareWorkspace, exportedFiles, importWorkspace, type Readers } from '../acts';
import { HttpProblem } from '../problems';
import type { Services } from '../services';
import { checked, DEEPEST, isDeeperThan } from './validate';

/** What is kept here as files fit for version control, and such files held against it and taken over. */
export function workspaceApi(services: Services): Router {
  const router = Router();
  router.get('/workspace', (_request, response) => void response.json(exportedFiles(services)));

  /** What importing files would do. */
  router.post('/workspace/compare', async (request, response) => {
    response.json(await compareWorkspace(services, bodyOf(request.body).files, readers));
  });

  /** Imports files that were compared, all or none. */
  router.post('/workspace', async (request, response) => {
    const { files, mark } = bodyOf(request.body);
    response.json(await importWorkspace(services, actorOf(response), files, mark, readers));
  });
  return router;
}

/** Checked by hand: there may be thousands of files, and each has a schema of its own. */
function bodyOf(body: unknown): { files: WorkspaceFiles; mark: string } {
  const { files, mark } = isJsonObject((body ?? null) as Json) ? (body as Record<string, Json>) : {};
  if (!isJsonObject(files ?? null)) throw new HttpProblem(400, 'Give the files by their paths.');
  if (isDeeperThan(files as object, DEEPEST))
    throw new HttpProblem(422, `A file is nested more than ${DEEPEST} levels deep.`);
  return { files: files as WorkspaceFiles, mark: typeof mark === 'string' ? mark : '' };
}

const checks = new Map<FileKind, ValidateFunction>();

/** The check of a kind of file, made when it is needed first. */
function checkOf(kind: FileKind): ValidateFunction {
  const known = checks.get(kind) ?? new Ajv2020({ strict: false }).compile(workspaceSchemas[kind] as object);
  checks.set(kind, known);
  return known;
}

const readers: Readers = {
  intake: input => checked(IntakeInput, input),
  pins: pins => checked(PinsInput, pins),
  target: input => checked(TargetInput, input),
  definition: definition => checked(DefinitionInput, definition),
  faults: ({ kind, content }) => {
    const check = checkOf(kind);
    if (check(content)) return [];
    return (check.errors ?? []).slice(0, 1).map(({ instancePath, message }) => `${instancePath || 'It'} ${message}.`);
  },
};
