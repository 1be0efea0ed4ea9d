import { mkdtempSync, readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { hashPassword, passwordMatches, vaultIn, vaultWith } from '.';

test('a password matches its own hash and no other', async () => {
  const hash = await hashPassword('withy bridge at dawn');
  expect(hash).not.toContain('withy');
  expect(await passwordMatches('withy bridge at dawn', hash)).toBe(true);
  expect(await passwordMatches('withy bridge at dusk', hash)).toBe(false);
  expect(await passwordMatches('x', 'plain')).toBe(false);
});

test('what was sealed comes out again; two seals differ; a changed one is refused', () => {
  const vault = vaultWith(Buffer.alloc(32, 7));
  const sealed = vault.seal('yard-token é');
  expect(vault.open(sealed)).toBe('yard-token é');
  expect(sealed.equals(vault.seal('yard-token é'))).toBe(false);
  expect(sealed.includes(Buffer.from('yard-token'))).toBe(false);
  const changed = Buffer.from(sealed);
  changed[changed.length - 1]! ^= 1;
  expect(() => vault.open(changed)).toThrow();
  expect(() => vaultWith(Buffer.alloc(32, 8)).open(vault.seal('x'))).toThrow();
});

test('the key is made once, for its owner only', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-'));
  const sealed = vaultIn(folder).seal('x');
  expect(vaultIn(folder).open(sealed)).toBe('x');
  expect(statSync(path.join(folder, 'key')).mode & 0o077).toBe(0);
  expect(Buffer.from(readFileSync(path.join(folder, 'key'), 'utf8'), 'base64')).toHaveLength(32);
});
