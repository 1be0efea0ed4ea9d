import type { DraftInput, TrialView } from '@grammata/contract';
import { asc, desc, eq } from 'drizzle-orm';
import { now } from '../clock';
import { newId } from '../ids';
import type { Database } from './database';
import { routes, versions } from './schema';

export type RouteRow = typeof routes.$inferSelect;
export type VersionRow = typeof versions.$inferSelect;

/** Routes and the versions that went live. */
export class Routes {
  constructor(private readonly db: Database) {}

  all(): RouteRow[] {
    return this.db.select().from(routes).orderBy(asc(routes.createdAt)).all();
  }

  byId(id: string): RouteRow | undefined {
    return this.db.select().from(routes).where(eq(routes.id, id)).get();
  }

  ofForm(formId: string): RouteRow[] {
    return this.db.select().from(routes).where(eq(routes.formId, formId)).all();
  }

  create(formId: string, draft: DraftInput): RouteRow {
    return this.db
      .insert(routes)
      .values({ id: newId(), formId, state: 'draft', draft, createdAt: now() })
      .returning()
      .get();
  }

  remove(id: string): void {
    this.db.transaction(tx => tx.delete(routes).where(eq(routes.id, id)).run());
  }

  /** Stores an edit made on the revision it names; null when somebody else saved a newer one meanwhile. */
  saveDraft(id: string, draft: DraftInput): RouteRow | null {
    return this.db.transaction(tx => {
      const row = tx.select().from(routes).where(eq(routes.id, id)).get();
      if (!row || row.draft.revision !== draft.revision) return null;
      return tx
        .update(routes)
        .set({ draft: { ...draft, revision: draft.revision + 1 } })
        .where(eq(routes.id, id))
        .returning()
        .get();
    });
  }

  /** Makes the draft a version and the route live. */
  goLive(id: string, at: number = now()): RouteRow | undefined {
    return this.db.transaction(tx => {
      const row = tx.select().from(routes).where(eq(routes.id, id)).get();
      if (!row) return undefined;
      const last = tx.select().from(versions).where(eq(versions.routeId, id)).orderBy(desc(versions.number)).get();
      if (!last || !sameDefinition(last.definition, row.draft)) {
        tx.insert(versions)
          .values({
            id: newId(),
            routeId: id,
            number: (last?.number ?? 0) + 1,
            definition: row.draft,
            createdAt: now(),
          })
          .run();
      }
      return tx
        .update(routes)
        .set({ state: 'live', liveSince: row.liveSince ?? at })
        .where(eq(routes.id, id))
        .returning()
        .get();
    });
  }

  /** Keeps how the last real try of the draft went. */
  keepTrial(id: string, trial: TrialView): void {
    this.db.update(routes).set({ trial }).where(eq(routes.id, id)).run();
  }

  pause(id: string): RouteRow | undefined {
    return this.db.update(routes).set({ state: 'paused', liveSince: null }).where(eq(routes.id, id)).returning().get();
  }

  latestVersion(routeId: string): VersionRow | undefined {
    return this.db.select().from(versions).where(eq(versions.routeId, routeId)).orderBy(desc(versions.number)).get();
  }

  version(id: string): VersionRow | undefined {
    return this.db.select().from(versions).where(eq(versions.id, id)).get();
  }
}

/** True when two drafts do the same, whatever their revision. */
export const sameDefinition = (a: DraftInput, b: DraftInput): boolean =>
  JSON.stringify({ ...a, revision: 0 }) === JSON.stringify({ ...b, revision: 0 });
