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
      {counted(strays.length, 'request')} to unknown intake addresses, last <Moment at={newest.at} />:
      <code className="my-1 block font-mono text-small break-all">
        {newest.method} {newest.url}
      </code>
      Compare the address in the form builder with the intake’s.{' '}
      <Confirm
        ask="Discard"
        deed={`Discard ${counted(strays.length, 'request')}`}
        keep="Keep"
        onDo={() => forget.mutate()}
        isBusy={forget.isPending}
      >
        Their content is stored nowhere else.
      </Confirm>
    </Note>
  );
}
