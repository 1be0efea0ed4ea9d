import { useRoutes } from '../lists';
import type { ReactNode } from 'react';
import { Link } from 'react-router';

import { Note } from '../ui';

/** Offers to send recorded submissions through the live routes of their form. */
export function SendThrough({
  formId,
  what,
  search,
  arrivalId,
  lead = '',
  otherwise = null,
}: {
  formId: string;
  /** What is sent, in words. */
  what: string;
  /** Only those that hold this. */
  search?: string;
  arrivalId?: string;
  /** What is said before it. */
  lead?: string;
  /** What is shown where no route of the form is live. */
  otherwise?: ReactNode;
}) {
  const routes = useRoutes().data;
  // What is not known yet is not said to be none.
  if (!routes) return null;
  const live = routes.filter(route => route.formId === formId && route.state === 'live');
  if (live.length === 0) return otherwise;
  const meant = new URLSearchParams({
    send: '',
    ...(arrivalId && { arrival: arrivalId }),
    ...(search && { matching: search }),
  });
  return (
    <Note tone="goes">
      {lead} Send {what} through{' '}
      {live.map((route, index) => (
        <span key={route.id}>
          {index > 0 && (index === live.length - 1 ? ' or ' : ', ')}
          <Link className="act" to={`/routes/${route.id}?${meant}`}>
            {route.name}
          </Link>
        </span>
      ))}
      .
    </Note>
  );
}
