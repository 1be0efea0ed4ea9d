/** @jest-environment ./scripts/jestBrowser.mjs */
import { QueryClient, QueryClientProvider, useInfiniteQuery } from '@tanstack/react-query';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useNextPage } from './useNextPage';

afterEach(cleanup);

/** What answers a page, as the test says. */
let pending: Record<number, (() => void)[]>;

function List() {
  const query = useInfiniteQuery({
    queryKey: ['list'],
    queryFn: ({ pageParam }) =>
      new Promise<string>(resolve => (pending[pageParam] ??= []).push(() => resolve(`page ${pageParam}`))),
    initialPageParam: 1,
    getNextPageParam: (_, pages) => (pages.length < 2 ? pages.length + 1 : undefined),
  });
  const { bring, isBringing } = useNextPage('list', query);
  return (
    <>
      {query.data?.pages.map(each => (
        <p key={each}>{each}</p>
      ))}
      {isBringing && <p>bringing</p>}
      {bring && <button onClick={bring}>more</button>}
    </>
  );
}

const answer = (page: number) => pending[page]!.splice(0).forEach(each => each());
const asked = async (page: number) => {
  await waitFor(() => expect(pending[page]?.length).toBeGreaterThan(0));
};

test('the page that was asked for comes, though the list is read anew meanwhile', async () => {
  pending = {};
  const client = new QueryClient();
  render(
    <QueryClientProvider client={client}>
      <List />
    </QueryClientProvider>,
  );
  await asked(1);
  answer(1);
  await screen.findByText('page 1');
  await userEvent.click(screen.getByText('more'));
  await asked(2);
  // Something arrives: the list is read anew, in the place of what was under way.
  void client.invalidateQueries({ queryKey: ['list'] });
  await asked(1);
  pending[2] = [];
  expect(screen.getByText('bringing')).toBeTruthy();
  answer(1);
  await asked(2);
  answer(2);
  await screen.findByText('page 2');
  expect([screen.queryByText('bringing'), screen.queryByText('more')]).toEqual([null, null]);
});
