import type { DeliveryState, RouteState } from '@grammata/contract';

const deliveryStates: Record<DeliveryState, { mark: string; colour: string }> = {
  waiting: { mark: '○', colour: 'text-ochre' },
  sending: { mark: '◐', colour: 'text-ochre' },
  delivered: { mark: '●', colour: 'text-verdigris' },
  held: { mark: '■', colour: 'text-crimson' },
  dead: { mark: '✕', colour: 'text-crimson' },
};
const routeStates: Record<RouteState, { mark: string; colour: string }> = {
  draft: { mark: '○', colour: 'text-ink-2' },
  live: { mark: '●', colour: 'text-verdigris' },
  paused: { mark: '❙❙', colour: 'text-ochre' },
};
/** How states read to people. */
export const deliveryWords: Record<DeliveryState, string> = {
  waiting: 'waiting',
  sending: 'sending',
  delivered: 'delivered',
  held: 'held',
  dead: 'failed',
};

function State({ mark, colour, word }: { mark: string; colour: string; word: string }) {
  return (
    <span className={`whitespace-nowrap ${colour}`}>
      <span aria-hidden className="mr-1.5 inline-block w-3 text-center text-fine">
        {mark}
      </span>
      {word}
    </span>
  );
}

export const DeliveryStateWord = ({ state }: { state: DeliveryState }) => (
  <State {...deliveryStates[state]} word={deliveryWords[state]} />
);
export const RouteStateWord = ({ state }: { state: RouteState }) => <State {...routeStates[state]} word={state} />;
