import type { IntakeView, VerificationKind } from '@grammata/contract';
import { Act, bytes, CopyAct } from '../ui';

const proofWords: Record<VerificationKind, string> = {
  header: 'secret in a header',
  query: 'secret in the address',
  basic: 'Basic',
  hmac: 'signed',
  standard: 'signed',
};

const replyWords: Record<IntakeView['reply'], string> = {
  accepted: 'replies 202',
  ok: 'replies 200',
  page: 'answers with a page',
  redirect: 'redirects',
  answer: 'answers with the target’s response',
};

/** A line for a terminal that sends one submission. */
const curlLine = (address: string) =>
  `curl -X POST '${address}' -H 'content-type: application/json' -d '{"site":"AB-07","ph":7.4}'`;

/** The intake's address and ready-made ways to use it. */
export function AddressRow({
  intake,
  onSettings,
  settingsOpen,
  onFeed,
}: {
  intake: IntakeView;
  onSettings: () => void;
  settingsOpen: boolean;
  onFeed: () => void;
}) {
  return (
    <div className="mt-3 mb-3.5 flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <code className="border-b border-rule-strong py-0.5 font-mono text-body break-all">{intake.address}</code>
      <CopyAct text={intake.address} />
      <CopyAct text={curlLine(intake.address)}>as a curl command</CopyAct>
      <a className="act" href={`${intake.address}?site=AB-07&ph=7.4`} target="_blank" rel="noreferrer">
        Open test link ↗
      </a>
      <span className="flex-1" />
      <span className="text-ink-2">
        {intake.takesPut ? 'POST, PUT, PATCH, GET' : 'POST, GET'}
        {intake.verification && ` · ${proofWords[intake.verification.kind]}`} · up to {bytes(intake.sizeLimit)} ·{' '}
        {replyWords[intake.reply]}
      </span>
      <Act onClick={onSettings} aria-expanded={settingsOpen}>
        Change
      </Act>
      <div className="flex w-full flex-wrap items-baseline gap-x-3">
        {intake.mailAddress && (
          <>
            <span className="text-ink-2">by e-mail</span>
            <code className="font-mono text-small">{intake.mailAddress}</code>
            <CopyAct text={intake.mailAddress} label="Copy the e-mail address" />
          </>
        )}
        {!intake.feed && (
          <Act className="font-normal" onClick={onFeed}>
            {intake.mailAddress ? 'or poll a URL' : 'Poll a URL'}
          </Act>
        )}
      </div>
    </div>
  );
}
