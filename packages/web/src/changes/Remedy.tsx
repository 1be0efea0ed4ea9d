import type { AnswerChange } from '@grammata/core/drift';
import { Link } from 'react-router';

/** A target's settings, open. */
const toCredentials = (targetId: string): string => `/targets/${targetId}?change=settings`;

/** What somebody can do where a target answers differently: the words, what is pressed, and where that leads. */
const remedies: Record<AnswerChange['change'], { words: string; deed: string; to: (targetId: string) => string }> = {
  credentials: {
    words: 'Create new credentials at the target, then send what failed.',
    deed: 'Enter credentials',
    to: toCredentials,
  },
  scheme: {
    words: 'Create such credentials at the target and enter them before it stops accepting the old ones.',
    deed: 'Enter credentials',
    to: toCredentials,
  },
  refused: {
    words: 'Read the target again to see whether its description changed. Then fix the route and send what failed.',
    deed: 'Open failed deliveries',
    to: () => '/deliveries?state=dead',
  },
  answer: {
    words: 'Routes that use this value get a blank or different value since then.',
    deed: 'Open target',
    to: id => `/targets/${id}`,
  },
  stored: {
    words: 'Ask the owner of the target, then send affected deliveries again.',
    deed: 'Open target',
    to: id => `/targets/${id}`,
  },
};

export function Remedy({ change, targetId }: { change: AnswerChange['change']; targetId: string }) {
  const { words, deed, to } = remedies[change];
  return (
    <>
      {words}{' '}
      <Link className="act" to={to(targetId)}>
        {deed}
      </Link>
    </>
  );
}
