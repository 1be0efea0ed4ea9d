import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'sqlite',
  casing: 'snake_case',
  schema: './packages/server/src/store/schema.ts',
  out: './packages/server/migrations',
});
