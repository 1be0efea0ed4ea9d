import { fuzzApi } from '@grammata/server/testing';
import { Attacked } from './server';

/** So many odd requests at every route of the API of the built server. */
export async function attackApi(times: number, seed: number) {
  const attacked = await Attacked.fresh();
  try {
    const { url } = attacked;
    const figures = await fuzzApi({ url, cookie: () => attacked.cookie, targetUrl: url }, times, seed);
    return { ...figures, lives: attacked.lives };
  } finally {
    await attacked.kill();
  }
}
