import { expect, test } from '@playwright/test';
import { killRounds } from '../bench/attack/kill';

const ROUNDS = 4;

test('killed at full load, again and again: nothing acknowledged is lost, no record twice, no key for two requests', async () => {
  test.setTimeout(240_000);
  const { acknowledged, ...figures } = await killRounds(ROUNDS);
  expect(acknowledged).toBeGreaterThan(40 * ROUNDS);
  expect(figures).toEqual({ rounds: ROUNDS, lost: [], twice: [], filesLost: 0, filesTwice: 0, keysUsedTwice: 0 });
});
