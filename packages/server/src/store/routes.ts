import type { DraftInput, TrialView } from '@grammata/contract';
import { sameDefinition, targetsOf, type RouteDefinition } from '@grammata/core/route';
import { asc, desc, eq, ne } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { now } from '../clock';
import { newId } from '../ids';
import type { Database } from './database';
import { routes, versions } from './schema';
import type { Targets } from './targets';

export type RouteRow = typeof routes.$inferSelect;
export type VersionRow = typeof versions.$inferSelect;

/** What is done with which form's submissions. */
export type RouteContent = Pick<VersionRow, 'definition' | 'formId'>;

/** What a route is drawn to do. */
export const draftOf = ({ draft, formId }: Pick<RouteRow, 'draft' | 'formId'>): RouteContent => ({
  definition: draft,
  formId,
});

/** A route that is live or paused, with the version that counts and the form that it takes. */
export interface RunningRoute extends Pick<RouteRow, 'id' | 'formId' | 'state'> {
  version: VersionRow;
}

/** Versions kept at hand, parsed: they never change. */
const AT_HAND = 200;

/** Routes and the versions that went live. */
export class Routes {
  readonly #versions = new LRUCache<string, VersionRow>({ max: AT_HAND });
  #running: RunningRoute[] | null = null;

  constructor(
    private readonly db: Database,
    private readonly targets: Targets,
  ) {}

  all(): RouteRow[] {
    return this.db.select().from(routes).orderBy(asc(routes.createdAt)).all();
  }

  byId(id: string): RouteRow | undefined {
    return this.db.select().from(routes).where(eq(routes.id, id)).get();
  }

  /** Routes that take submissions, of one form or of all: live ones send at once, paused ones gather. Kept at hand. */
  running(formId?: string): RunningRoute[] {
    this.#running ??= this.db
      .select({ id: routes.id, state: routes.state })
      .from(routes)
      .where(ne(routes.state, 'draft'))
      .all()
      .flatMap(route => {
        const version = this.latestVersion(route.id);
        return version ? [{ ...route, formId: version.formId, version }] : [];
      });
    return formId === undefined ? this.#running : this.#running.filter(each => each.formId === formId);
  }

  create(formId: string, draft: RouteDefinition): RouteRow {
    return this.db
      .insert(routes)
      .values({ id: newId(), formId, state: 'draft', draft, createdAt: now() })
      .returning()
      .get();
  }

  remove(id: string): void {
    this.db.transaction(tx => tx.delete(routes).where(eq(routes.id, id)).run());
    this.#versions.clear();
    this.#running = null;
  }

  /** What a route does: as it is live, or as it is drawn. */
  doing(route: RouteRow): RouteContent {
    const live = route.state === 'draft' ? undefined : this.latestVersion(route.id);
    return live ? { definition: live.definition, formId: live.formId } : draftOf(route);
  }

  /** Routes that take a form on, as they are live or drawn. */
  ofForm(formId: string): RouteRow[] {
    return this.all().filter(each => each.formId === formId || this.doing(each).formId === formId);
  }

  /**
   * Stores an edit made on the revision it names, and the form that it hangs on from now on where that is another; null when somebody else
   * saved a newer one meanwhile.
   */
  saveDraft(id: string, { definition, revision }: DraftInput, formId?: string): RouteRow | null {
    return this.db.transaction(tx => {
      const row = tx.select().from(routes).where(eq(routes.id, id)).get();
      if (!row || row.revision !== revision) return null;
      return tx
        .update(routes)
        .set({ draft: definition, revision: revision + 1, ...(formId !== undefined && { formId }) })
        .where(eq(routes.id, id))
        .returning()
        .get();
    });
  }

  /** Makes the draft a version, for its targets as they are now, and the route live. */
  goLive(id: string, by: string | null = null, at: number = now()): RouteRow | undefined {
    this.#running = null;
    return this.db.transaction(tx => {
      const row = tx.select().from(routes).where(eq(routes.id, id)).get();
      if (!row) return undefined;
      const last = tx.select().from(versions).where(eq(versions.routeId, id)).orderBy(desc(versions.number)).get();
      if (!last || this.#differs(last, row))
        tx.insert(versions)
          .values({
            id: newId(),
            routeId: id,
            number: (last?.number ?? 0) + 1,
            ...draftOf(row),
            pins: this.#pinsOf(row.draft),
            by,
            createdAt: at,
          })
          .run();
      return tx
        .update(routes)
        .set({ state: 'live', liveSince: row.liveSince ?? at })
        .where(eq(routes.id, id))
        .returning()
        .get();
    });
  }

  /** The versions of a route, the newest first. */
  versions(id: string, limit: number): VersionRow[] {
    return this.db
      .select()
      .from(versions)
      .where(eq(versions.routeId, id))
      .orderBy(desc(versions.number))
      .limit(limit)
      .all();
  }

  /** How the draft would be another version than the one that is live: edited, or for targets that offer something else. */
  changesSince(version: VersionRow, route: Pick<RouteRow, 'draft' | 'formId'>): { edited: boolean; targets: string[] } {
    const pins = this.#pinsOf(route.draft);
    return {
      edited: version.formId !== route.formId || !sameDefinition(version.definition, route.draft),
      targets: Object.keys(pins).filter(id => version.pins[id] !== undefined && version.pins[id] !== pins[id]),
    };
  }

  #differs(version: VersionRow, route: Pick<RouteRow, 'draft' | 'formId'>): boolean {
    const { edited, targets } = this.changesSince(version, route);
    return edited || targets.length > 0;
  }

  #pinsOf(definition: RouteDefinition): Record<string, string> {
    const pins = targetsOf(definition).map(id => [id, this.targets.byId(id)?.snapshot] as const);
    return Object.fromEntries(pins.filter((pin): pin is [string, string] => Boolean(pin[1])));
  }

  /** Keeps how the last real try of the draft went. */
  keepTrial(id: string, trial: TrialView): void {
    this.db.update(routes).set({ trial }).where(eq(routes.id, id)).run();
  }

  pause(id: string): RouteRow | undefined {
    this.#running = null;
    return this.db.update(routes).set({ state: 'paused', liveSince: null }).where(eq(routes.id, id)).returning().get();
  }

  latestVersion(routeId: string): VersionRow | undefined {
    const latest = this.db
      .select({ id: versions.id })
      .from(versions)
      .where(eq(versions.routeId, routeId))
      .orderBy(desc(versions.number))
      .get();
    return latest && this.version(latest.id);
  }

  version(id: string): VersionRow | undefined {
    const known = this.#versions.get(id);
    if (known) return known;
    const row = this.db.select().from(versions).where(eq(versions.id, id)).get();
    if (row) this.#versions.set(id, row);
    return row;
  }
}
