import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'sqlite',
  casing: 'snake_case',
  schema: [
    './packages/server/src/store/schema.ts',
    './packages/server/src/store/proofsSchema.ts',
    './packages/server/src/store/changesSchema.ts',
    './packages/server/src/store/ledgerSchema.ts',
  ],
  out: './packages/server/migrations',
});
