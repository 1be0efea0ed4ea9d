import { recipeInput } from '@grammata/contract';
import type { Json } from '@grammata/core/submission';
import { filesOf, type Workspace, type WorkspaceFiles } from '@grammata/core/workspace';
import type { Services } from '../../services';
import type { FormRow, IntakeRow, SubmissionRow, TargetRow, VariantRow } from '../../store';

/** What is kept here, each thing with its row. */
export function workspaceHere({ store }: Pick<Services, 'store'>) {
  const forms = new Map<string, ReturnType<typeof formHere>>();
  const formHere = (form: FormRow) => ({
    name: form.name,
    key: form.key,
    id: form.id,
    samples: [...store.forms.variants(form.id).toReversed(), ...store.forms.namedSamples(form.id)].map(
      (row: VariantRow | SubmissionRow) => ({
        name: row.name!,
        submission: row.data,
        id: row.id,
        /** As it came: only people’s own variants are changed. */
        isRecorded: 'arrivalId' in row,
      }),
    ),
  });
  const intakes = store.intakes.all().map(row => ({
    name: row.name,
    settings: settingsOf(row),
    row,
    forms: store.forms.heads(row.id).map(({ form }) => {
      const here = formHere(form);
      forms.set(form.id, here);
      return here;
    }),
  }));
  const targets = store.targets.all().map(row => ({ ...row, reached: reachedBy(row), row }));
  const routes = store.routes.all().flatMap(row => {
    const form = forms.get(row.formId);
    return form ? [{ form, definition: row.draft, proofs: store.proofs.of(row.id), row }] : [];
  });
  return { intakes, targets, routes } satisfies Workspace;
}

export type Here = ReturnType<typeof workspaceHere>;

/** What is set of an intake, as the API takes it; secrets stay here. */
function settingsOf(row: IntakeRow): Record<string, Json> {
  const { id: _id, slug: _slug, name: _name, createdAt: _at, state: _state, ...own } = row;
  const {
    secrets: _secrets,
    feedSecret: _feed,
    feedReading: _reading,
    fileSecret: _file,
    fileAccess,
    ...settings
  } = own;
  const access = fileAccess && {
    host: fileAccess.host,
    kind: fileAccess.auth.kind,
    name: 'user' in fileAccess.auth ? fileAccess.auth.user : 'name' in fileAccess.auth ? fileAccess.auth.name : '',
  };
  return JSON.parse(JSON.stringify({ ...settings, fileAccess: access })) as Record<string, Json>;
}

/** How a target is reached, as the API takes it; secrets stay here. */
function reachedBy(row: TargetRow): Record<string, Json> {
  const { reads, discoveryPath, auth, takesPersonal, knowsKeys, takesNames, document, patience, pace } = row;
  const tryBaseUrl = row.trySide?.baseUrl ?? null;
  const recipe = row.recipe && recipeInput(row.recipe);
  const reached = {
    reads,
    discoveryPath,
    auth,
    takesPersonal,
    knowsKeys,
    takesNames,
    document,
    recipe,
    patience,
    pace,
    tryBaseUrl,
  };
  return JSON.parse(JSON.stringify(reached)) as Record<string, Json>;
}

/** What is kept here as files fit for version control, without secrets. */
export const exportedFiles = (parts: Pick<Services, 'store'>): WorkspaceFiles => filesOf(workspaceHere(parts));
