import { Confirm, counted, Moment, Note } from '../ui';
import { useForgetStrays, useStrays } from './queries';

/** Requests to addresses that no intake has: usually a mistyped address in a form builder. */
export function Strays() {
  const { data: strays = [] } = useStrays();
  const forget = useForgetStrays();
  const newest = strays[0];
  if (!newest) return null;
  return (
    <Note tone="trouble">
      {counted(strays.length, 'request')} came to addresses that no intake has, the last <Moment at={newest.at} />:
      <code className="my-1 block font-mono text-small break-all">
        {newest.method} {newest.url}
      </code>
      Compare the address in the form builder with the intake’s, letter by letter.{' '}
      <Confirm
        ask="Forget them"
        deed={`Forget ${counted(strays.length, 'request')}`}
        keep="Keep them"
        onDo={() => forget.mutate()}
        isBusy={forget.isPending}
      >
        What they sent is not kept anywhere else.
      </Confirm>
    </Note>
  );
}
