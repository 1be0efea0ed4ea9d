import type { InfiniteData, UseInfiniteQueryResult } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

type Pages = Pick<
  UseInfiniteQueryResult<InfiniteData<unknown>>,
  'data' | 'hasNextPage' | 'isFetching' | 'isFetchNextPageError' | 'fetchNextPage'
>;

/**
 * Brings the next page of a list. Where the list is read anew meanwhile, because something changed, that takes the place of what was
 * under way: the page that was asked for is brought after it.
 * @param of which list it is: what was asked for of another is forgotten
 */
export function useNextPage(of: string, { data, hasNextPage, isFetching, isFetchNextPageError, fetchNextPage }: Pages) {
  const [asked, setAsked] = useState({ of, pages: 0 });
  const pages = data?.pages.length ?? 0;
  const isBringing = hasNextPage && asked.of === of && asked.pages > pages && !isFetchNextPageError;
  useEffect(() => {
    if (isBringing && !isFetching) void fetchNextPage();
  }, [isBringing, isFetching, fetchNextPage]);
  const bring = () => {
    setAsked({ of, pages: pages + 1 });
    if (isFetchNextPageError) void fetchNextPage();
  };
  /** Null where there is none. */
  return { bring: hasNextPage ? bring : null, isBringing };
}
