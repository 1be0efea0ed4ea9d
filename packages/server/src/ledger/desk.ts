import { compileCondition } from '@grammata/core/condition';
import { scopeOf } from '@grammata/core/scope';
import type { Submission } from '@grammata/core/submission';
import type { RouteDefinition } from '@grammata/core/route';
import { Deliveries, Forms, Questions, type FormRow, type OpenDatabase, type RouteRow } from '../store';
import { Statements } from './statements';

/** A route that takes submissions, with the version that counts. */
interface RunningRoute {
  id: string;
  state: RouteRow['state'];
  versionId: string;
  formId: string;
  passes(data: Submission): boolean;
}

type KnownForm = Pick<FormRow, 'id' | 'key' | 'sameAs'>;

/** What the ledger's commands work with: the connection, and what others store that they go by. */
export class Desk {
  readonly sql: Statements;
  readonly questions: Questions;
  readonly forms: Forms;
  readonly deliveries: Deliveries;
  readonly #passes = new Map<string, RunningRoute['passes']>();
  readonly #known = new Map<string, Map<string, KnownForm>>();
  #running: Map<string, RunningRoute[]> | null = null;
  #version = -1;

  constructor({ client, db }: Pick<OpenDatabase, 'client' | 'db'>) {
    this.sql = new Statements(client);
    this.questions = new Questions(db);
    this.forms = new Forms(db, this.questions);
    this.deliveries = new Deliveries(db);
  }

  /** Forgets what others may have changed since: to be called as a transaction begins. */
  refresh(): void {
    // SQLite counts the commits of other connections (PRAGMA data_version).
    const version = this.sql.get<{ data_version: number }>('PRAGMA data_version')!.data_version;
    if (version !== this.#version) this.forget();
    this.#version = version;
  }

  /** Forgets what is at hand: after a transaction that failed, and where others use the same connection. */
  forget(): void {
    this.#running = null;
    this.#known.clear();
  }

  /** Routes that take a form: live ones send at once, paused ones gather. */
  running(formId: string): readonly RunningRoute[] {
    if (!this.#running) {
      this.#running = new Map();
      const rows = this.sql.all<Omit<RunningRoute, 'passes'> & { definition: string }>(
        `SELECT r.id, r.state, v.id AS versionId, v.form_id AS formId, v.definition FROM routes r
         JOIN versions v ON v.route_id = r.id AND v.number = (SELECT max(number) FROM versions WHERE route_id = r.id)
         WHERE r.state <> 'draft'`,
      );
      for (const { definition, ...route } of rows) {
        const known = this.#running.get(route.formId);
        const running = { ...route, passes: this.#passesOf(route.versionId, definition) };
        if (known) known.push(running);
        else this.#running.set(route.formId, [running]);
      }
    }
    return this.#running.get(formId) ?? [];
  }

  /** The route with the version that counts, where it is live. */
  live(routeId: string): RunningRoute | undefined {
    this.running('');
    return [...this.#running!.values()].flat().find(each => each.id === routeId && each.state === 'live');
  }

  /** A version never changes: its condition is compiled once. */
  #passesOf(versionId: string, definition: string): RunningRoute['passes'] {
    const known = this.#passes.get(versionId);
    if (known) return known;
    const condition = compileCondition((JSON.parse(definition) as RouteDefinition).condition);
    const passes = (data: Submission) => condition(scopeOf(data));
    if (this.#passes.size > 500) this.#passes.clear();
    this.#passes.set(versionId, passes);
    return passes;
  }

  /** The forms of an intake by their keys. */
  formsOf(intakeId: string): Map<string, KnownForm> {
    const known = this.#known.get(intakeId);
    if (known) return known;
    const rows = this.sql.all<KnownForm>('SELECT id, key, same_as AS sameAs FROM forms WHERE intake_id = :intakeId', {
      intakeId,
    });
    const forms = new Map(rows.map(row => [row.key, row]));
    this.#known.set(intakeId, forms);
    return forms;
  }
}
