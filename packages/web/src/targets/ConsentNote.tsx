import type { TargetView } from '@grammata/contract';
import { useSearchParams } from 'react-router';
import { wordsFor } from '../api';
import { Act, Moment, Note } from '../ui';
import { useAskConsent, useForgetConsent } from './queries';

/** Whether somebody has given their consent, and the way to give it. */
export function ConsentNote({ target }: { target: TargetView }) {
  const [params] = useSearchParams();
  const ask = useAskConsent(target.id);
  const forget = useForgetConsent(target.id);
  if (target.auth.kind !== 'consent') return null;
  const { consent } = target;
  const why = params.get('consent') === 'refused' ? params.get('why') : null;
  const give = (words: string) => (
    <Act
      disabled={ask.isPending}
      onClick={() => ask.mutate(undefined, { onSuccess: ({ url }) => window.location.assign(url) })}
    >
      {words}
    </Act>
  );
  return (
    <>
      {why && (
        <div role="status">
          <Note tone="trouble">{why}</Note>
        </div>
      )}
      {ask.error && <Note tone="trouble">{wordsFor(ask.error)}</Note>}
      {!consent && (
        <Note tone="trouble">
          No consent yet. Deliveries are waiting. Redirect URI for the provider:{' '}
          <code className="font-mono text-small break-all">{target.consentAddress}</code>. {give('Give consent')}
        </Note>
      )}
      {consent?.ended && (
        <Note tone="trouble">
          Consent expired <Moment at={consent.ended.at} />: {consent.ended.reason} Deliveries are waiting.{' '}
          {give('Renew consent')}
        </Note>
      )}
      {consent && !consent.ended && (
        <Note tone="fine">
          Consent given <Moment at={consent.givenAt} />; tokens are refreshed automatically. {give('Renew consent')}{' '}
          <Act disabled={forget.isPending} onClick={() => forget.mutate(undefined)}>
            Remove
          </Act>
        </Note>
      )}
    </>
  );
}
