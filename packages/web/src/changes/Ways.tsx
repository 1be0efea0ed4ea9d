import type { RepairedView, RepairInput } from '@grammata/contract';
import { useState, type SyntheticEvent } from 'react';
import { Choice, Choices, Press, TextBox } from '../ui';

/** The way to repair that somebody wants to see, with the value that they say for it. */
export type AskedWay = Pick<RepairInput, 'way' | 'value'>;

/** The ways in which something can be repaired, to choose one; with the value that it asks for. */
export function Ways({
  told: { ways, way },
  asked,
  onAsk,
}: {
  told: RepairedView;
  asked: AskedWay;
  onAsk: (asked: AskedWay) => void;
}) {
  const { asks = null, fault = null } = ways.find(each => each.way === way) ?? {};
  return (
    <div className="space-y-2 border-b border-rule px-6 py-2.5 max-sm:px-4 sm:pl-12">
      <Choices
        label="Ways to repair it"
        value={way ?? ''}
        onChange={next => onAsk({ way: next as NonNullable<AskedWay['way']> })}
        ways={ways.map(each => ({ value: each.way, label: each.label }))}
      />
      {asks && (
        <Value
          key={asks.to}
          {...asks}
          fault={fault}
          value={asked.value ?? ''}
          onSay={value => onAsk({ way: way!, value })}
        />
      )}
    </div>
  );
}

function Value({
  to,
  options,
  fault,
  value,
  onSay,
}: {
  to: string;
  options: string[] | null;
  fault: string | null;
  value: string;
  onSay: (value: string) => void;
}) {
  const [text, type] = useState(value);
  const label = `Value of ${to}`;
  if (options)
    return (
      <Choice
        label={label}
        error={fault}
        className="max-w-xs"
        value={value}
        onChange={next => next !== '' && onSay(next)}
        none="Choose…"
        options={options.map(each => ({ value: each, label: each }))}
      />
    );
  const say = (event: SyntheticEvent) => {
    event.preventDefault();
    if (text.trim() !== '') onSay(text);
  };
  return (
    <form onSubmit={say} className="flex max-w-md items-start gap-x-3">
      <TextBox label={label} error={fault} className="min-w-0 flex-1" value={text} onChange={type} maxLength={2000} />
      <span className="mt-5">
        <Press quiet type="submit" disabled={text.trim() === ''}>
          Try it
        </Press>
      </span>
    </form>
  );
}
