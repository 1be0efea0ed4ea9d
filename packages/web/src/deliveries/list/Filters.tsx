import type { DeliveryState } from '@grammata/contract';
import { X } from 'lucide-react';
import type { Ref } from 'react';
import { useRoutes, useTargets } from '../../lists';
import { Choices, Combobox, deliveryWords, IconAct, TextBox } from '../../ui';
import type { Filter } from './useFilter';

const states: DeliveryState[] = ['waiting', 'sending', 'delivered', 'held', 'dead'];

/** Which deliveries are looked at: by state, route, target, day and words. */
export function Filters({
  filter,
  set,
  counts,
  searchRef,
}: {
  filter: Filter;
  set: (part: Partial<Filter>) => void;
  /** How many there are in each state; null while that is not known. */
  counts: Record<DeliveryState, number> | null;
  searchRef: Ref<HTMLInputElement>;
}) {
  const routes = useRoutes();
  const targets = useTargets();
  const all = counts && Object.values(counts).reduce((sum, n) => sum + n, 0);
  return (
    <>
      <Choices
        label="State"
        className="mt-3"
        value={filter.state === '' ? 'all' : filter.state}
        onChange={state => set({ state: state === 'all' ? '' : state })}
        ways={[
          { value: 'all' as const, label: 'all', count: all },
          ...states.map(state => ({ value: state, label: deliveryWords[state], count: counts && counts[state] })),
        ]}
      />
      <div className="mt-1 flex flex-wrap items-baseline gap-x-5 gap-y-1 border-b border-ink pb-2">
        <TextBox
          boxRef={searchRef}
          label="Search deliveries"
          isBare
          type="search"
          boxClass="w-56!"
          placeholder="Answers, files, errors"
          value={filter.search}
          onChange={search => set({ search })}
        />
        <Combobox
          label="Route"
          isBare
          boxClass="w-44!"
          none="all routes"
          isPending={routes.isPending}
          options={(routes.data ?? []).map(each => ({ value: each.id, label: each.name }))}
          value={filter.route}
          onPick={route => set({ route })}
        />
        <Combobox
          label="Target"
          isBare
          boxClass="w-36!"
          none="all targets"
          isPending={targets.isPending}
          options={(targets.data ?? []).map(each => ({ value: each.id, label: each.name }))}
          value={filter.target}
          onPick={target => set({ target })}
        />
        <span className="flex items-baseline gap-2 text-ink-2">
          <TextBox
            label="From"
            isBare
            type="date"
            max={filter.to || undefined}
            boxClass="w-34!"
            value={filter.from}
            onChange={from => set({ from })}
          />
          to
          <TextBox
            label="To"
            isBare
            type="date"
            min={filter.from || undefined}
            boxClass="w-34!"
            value={filter.to}
            onChange={to => set({ to })}
          />
        </span>
        {filter.arrival && (
          <span className="flex items-center bg-oxide-wash pl-2">
            one message
            <IconAct icon={X} label="All messages" onClick={() => set({ arrival: '' })} />
          </span>
        )}
      </div>
    </>
  );
}
