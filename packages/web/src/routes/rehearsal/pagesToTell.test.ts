import type { SamplePage } from '@grammata/contract';
import { pagesToSend } from './pagesToSend';

const [a, b] = [1, 2].map(total => ({ total }) as SamplePage) as [SamplePage, SamplePage];

test.each([
  ['nothing is held', { generation: -1, pages: 0 }, [{ anew: true }, { page: a }, { page: b }]],
  ['one page is held', { generation: 4, pages: 1 }, [{ page: b }]],
  ['all is held', { generation: 4, pages: 2 }, []],
  ['pages of another generation are held', { generation: 3, pages: 2 }, [{ anew: true }, { page: a }, { page: b }]],
])('%s', (_, held, told) => expect(pagesToSend(held, { generation: 4, pages: [a, b] })).toEqual(told));
