import type { FindInput } from '@grammata/contract';
import { proposeFinds } from '@grammata/core/perform';
import { compileLine } from '@grammata/core/request';
import { Act, Choice } from '../../ui';
import { ReferencePick } from '../workbench';
import type { Workbench } from '../workbench';
import { kindOf } from '../what/source/kindOf';
import { Steps } from '../what/steps/Steps';

const noneWords: Record<FindInput['whenNone'], string> = {
  create: 'make one',
  leave: 'leave it at that',
  hold: 'hold the delivery',
};
const severalWords: Record<FindInput['whenSeveral'], string> = {
  hold: 'hold the delivery',
  first: 'take the first',
  every: 'take every one',
};

/** Looking a record up before writing: by what, and what is done about none and several. */
export function FindSettings({
  workbench,
  onChange,
}: {
  workbench: Workbench;
  onChange: (find: FindInput | null) => void;
}) {
  const { call, target, references, operation } = workbench;
  const { find } = call;
  const ways = target && operation ? proposeFinds(call, target.operations) : [];
  const finder = target?.operations.find(each => each.id === find?.operationId);
  if (!find && ways.length === 0) return null;
  if (!find)
    return (
      <div>
        <p className="text-small text-ink-2">A record that is there already</p>
        <p>
          is not looked for: each delivery makes a new one.{' '}
          {ways.slice(0, 3).map(way => (
            <Act key={way.line.to} className="mr-4" onClick={() => onChange(way)}>
              Find it by {way.line.to} first
            </Act>
          ))}
        </p>
      </div>
    );
  const { line } = find;
  const field = finder?.fields.find(each => each.key === line.to) ?? null;
  const edit = (change: (before: FindInput['line']) => FindInput['line']) => onChange({ ...find, line: change(line) });
  const updater = target?.operations.find(each => each.id === find.update?.operationId);
  return (
    <fieldset className="max-w-[46rem]">
      <legend className="text-small text-ink-2">A record that is there already</legend>
      <p>
        is looked for with “{finder?.label ?? find.operationId}”; its{' '}
        <code className="font-mono text-small">{find.equals.slice(1)}</code> must be exactly this:{' '}
        <Act onClick={() => onChange(null)}>Don’t look for it</Act>
      </p>
      <ReferencePick
        label={`What is looked for as ${line.to}`}
        className="mt-2 sm:w-1/2"
        references={references}
        value={line.source?.from === 'field' ? line.source.field : ''}
        none="pick an answer…"
        onPick={key => edit(each => ({ ...each, source: key ? { from: 'field', field: key } : null }))}
      />
      {line.source && (
        <Steps
          workbench={workbench}
          compiled={compileLine(line, field)}
          kind={kindOf(line.source, references)}
          edit={edit}
        />
      )}
      <div className="mt-4 grid gap-x-6 gap-y-3 sm:grid-cols-2">
        <Choice
          label="Where there is none"
          value={find.whenNone}
          options={noneWords}
          onChange={whenNone => onChange({ ...find, whenNone })}
        />
        <Choice
          label="Where there are several"
          value={find.whenSeveral}
          options={severalWords}
          onChange={whenSeveral => onChange({ ...find, whenSeveral })}
        />
      </div>
      <p className="mt-2 font-serif text-ink-2">
        {updater
          ? `One that is found is changed with “${updater.label}”: only what is different is sent, and nothing at all where all of it is there. Each line says what it may write over.`
          : 'One that is found stays as it is.'}
      </p>
    </fieldset>
  );
}
