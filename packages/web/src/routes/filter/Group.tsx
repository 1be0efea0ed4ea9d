import {
  conditionLimits,
  conditionOf,
  isTest,
  modeOf,
  partsOf,
  type Condition,
  type Mode,
  type Part,
} from '@grammata/core/condition';
import { Act, Choice, Press } from '../../ui';
import { useWorkbench } from '../workbench';
import { TestRow } from './TestRow';

const modeWords: Record<Mode, string> = { all: 'all', any: 'any', none: 'none' };

/** Tests and groups of them, of which all, any or none must hold. */
export function Group({
  condition,
  onChange,
  onRemove,
  path,
  says = 'Send a submission if ',
}: {
  condition: Condition;
  onChange: (condition: Condition) => void;
  /** Missing for the outermost group. */
  onRemove?: () => void;
  /** Its number, and those of the groups around it. */
  path: number[];
  /** What comes before the outermost group’s choice. */
  says?: string;
}) {
  const { references } = useWorkbench('offers');
  const [mode, parts] = [modeOf(condition), partsOf(condition)];
  const change = (next: Part[]) => onChange(conditionOf(mode, next));
  const place = path.join('.');
  const newTest: Part = { field: references[0]?.key ?? '', is: 'equals', values: [], not: false };
  const newGroup: Part = conditionOf(mode === 'all' ? 'any' : 'all', [newTest]);
  const isOutermost = path.length === 0;
  return (
    <div role="group" aria-label={isOutermost ? 'Condition' : `Group ${place}`}>
      <div className="flex items-baseline gap-3">
        {!isOutermost && <span className="w-7 text-right font-mono text-fine text-ink-3">{place}</span>}
        {parts.length === 0 && isOutermost ? (
          <p className="font-serif text-lead">All submissions are sent.</p>
        ) : (
          <p className={`font-serif ${isOutermost ? 'text-lead' : 'text-reading'}`}>
            {isOutermost ? says : ''}
            <Choice
              label={isOutermost ? 'Match' : `Match of group ${place}`}
              isBare
              boxClass="w-auto! font-serif font-semibold text-oxide"
              value={mode}
              options={modeWords}
              onChange={next => onChange(conditionOf(next, parts))}
            />{' '}
            of these conditions {mode === 'any' ? 'is' : 'are'} met:
          </p>
        )}
        {onRemove && (
          <Act onClick={onRemove} aria-label={`Remove group ${place}`}>
            Remove
          </Act>
        )}
      </div>
      <ol className={`mt-2 border-t border-rule ${isOutermost ? '' : 'ml-7 border-l-2 border-l-rule-strong pl-2'}`}>
        {parts.map((part, index) => {
          const replace = (next: Part) => change(parts.map((each, at) => (at === index ? next : each)));
          const remove = () => change(parts.filter((_, at) => at !== index));
          return (
            <li key={index} className="border-b border-rule py-2.5">
              {isTest(part) ? (
                <TestRow place={[...path, index + 1].join('.')} test={part} onChange={replace} onRemove={remove} />
              ) : (
                <Group condition={part} onChange={replace} onRemove={remove} path={[...path, index + 1]} />
              )}
            </li>
          );
        })}
      </ol>
      <p className={`flex gap-4 ${isOutermost ? 'mt-4' : 'mt-2 ml-7 pl-2'}`}>
        {isOutermost ? (
          <Press quiet onClick={() => change([...parts, newTest])}>
            {parts.length === 0 ? 'Add condition' : mode === 'all' ? 'Add condition' : 'Add condition'}
          </Press>
        ) : (
          <Act onClick={() => change([...parts, newTest])} aria-label={`Add condition to group ${place}`}>
            Add condition
          </Act>
        )}
        {parts.length > 0 &&
          path.length < conditionLimits.depth &&
          (isOutermost ? (
            <Press quiet onClick={() => change([...parts, newGroup])}>
              Add group
            </Press>
          ) : (
            <Act onClick={() => change([...parts, newGroup])} aria-label={`Add group to group ${place}`}>
              Add group
            </Act>
          ))}
      </p>
    </div>
  );
}
