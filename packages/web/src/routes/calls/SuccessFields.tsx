import type { CallInput, ResponsesView, SuccessInput } from '@grammata/contract';
import { isSuccess } from '@grammata/core/response';
import { placeWords } from '@grammata/core/scope';
import { Act, Choice, Combobox, count, counted, TextBox, Tick, useTyped } from '../../ui';
import { pointerFrom } from '../../targets/operation/values';
import { useResponses } from '../queries';
import { useWorkbench } from '../workbench';

const sum = <T,>(all: readonly T[], of: (each: T) => number): number =>
  all.reduce((total, each) => total + of(each), 0);

type Member = ResponsesView['members'][number];

const byMember = (pointer: string, values: string[] | null): SuccessInput => ({ by: 'member', pointer, values });

/** What a response with a success status has to say to be a success; proposed from what was answered. */
export function SuccessFields({
  call,
  onChange,
}: {
  call: CallInput;
  onChange: (success: SuccessInput | null) => void;
}) {
  const { route, operation } = useWorkbench('route', 'call');
  const responses = useResponses(route.id, call.id).data;
  const success = call.success ?? null;
  const members = responses?.members ?? [];
  const likely = members.find(each => each.values.length > 0);
  const kind = success?.by ?? '';
  return (
    <fieldset className="sm:col-span-2">
      <legend className="sr-only">Success</legend>
      <Choice
        label="Success"
        className="sm:w-[calc(50%-0.75rem)]"
        hint='Some targets answer {"success": false} with status 200.'
        value={kind}
        options={{
          '': 'by the status, unless the response says no',
          status: 'by the status only',
          member: 'by the status and a value in the response',
        }}
        onChange={next =>
          onChange(
            next === 'member'
              ? byMember(likely?.pointer ?? '', likely ? [likely.values[0]!.value] : null)
              : next === ''
                ? null
                : { by: 'status', pointer: '', values: null },
          )
        }
      />
      {success?.by === 'member' && (
        <OfMember
          success={success}
          members={members}
          known={(operation?.answer ?? []).filter(each => !each.items).map(each => each.pointer)}
          onChange={onChange}
        />
      )}
      {success?.by === 'member' && success.pointer === '' ? (
        <p className="mt-1.5 font-serif text-ink-2">
          Choose the value that tells a success. Until then, the status counts, unless the response says no.
        </p>
      ) : (
        responses &&
        responses.total > 0 && <p className="mt-1.5 font-serif text-ink-2">{inWords(success, responses)}</p>
      )}
      {!success && likely && responses && (responses.doubts.length > 0 || likely.values.length > 1) && (
        <p className="mt-1">
          {likely.values.map(({ value, count: many }) => (
            <Act key={value} className="mr-4" onClick={() => onChange(byMember(likely.pointer, [value]))}>
              Success if {placeWords(likely.pointer)} is “{value}” ({count(many)} of {count(responses.total)})
            </Act>
          ))}
        </p>
      )}
    </fieldset>
  );
}

/** How what was answered fares by a rule, in words. */
function inWords(success: SuccessInput | null, { total, members, doubts }: ResponsesView): string {
  const all = counted(total, 'recorded response');
  if (success?.by === 'status') return `All of ${all} with a success status count.`;
  if (!success) {
    const many = sum(doubts, each => each.count);
    return many === 0
      ? `None of ${all} with a success status says no.`
      : `${count(many)} of ${all} may say no: ${doubts.map(each => each.message).join(' · ')}`;
  }
  const member = members.find(each => each.pointer === success.pointer);
  const fine = !member
    ? 0
    : success.values === null || member.values.length === 0
      ? member.present
      : sum(member.values, each => (isSuccess(success, each.value) ? each.count : 0));
  return `${count(fine)} of ${all} would count as a success.`;
}

function OfMember({
  success,
  members,
  known,
  onChange,
}: {
  success: SuccessInput;
  members: Member[];
  /** Places that the target’s description or a learned response has. */
  known: string[];
  onChange: (success: SuccessInput) => void;
}) {
  const recorded = members.map(each => each.pointer);
  const member = members.find(each => each.pointer === success.pointer);
  const others = known.filter(each => each !== '' && !recorded.includes(each));
  const isListed = recorded.includes(success.pointer) || others.includes(success.pointer);
  const values = success.values ?? [];
  const toggle = (value: string) => {
    const next = values.includes(value) ? values.filter(each => each !== value) : [...values, value];
    onChange({ ...success, values: next.length === 0 ? null : next });
  };
  const observed = member?.values ?? [];
  const unobserved = values.filter(value => !observed.some(each => each.value === value));
  const [place, typePlace] = useTyped(success.pointer, each => each);
  const [text, type] = useTyped(unobserved, each => each.join(', '));
  return (
    <div className="mt-3 grid gap-x-6 gap-y-3 sm:grid-cols-2">
      {recorded.length + others.length > 0 && (
        <Combobox
          label="Value in the response"
          placeholder="choose a value…"
          options={[...recorded, ...others].map(pointer => ({
            value: pointer,
            label: placeWords(pointer),
            words: pointer,
            detail: members
              .find(each => each.pointer === pointer)
              ?.values.map(each => each.value)
              .join(', '),
          }))}
          value={isListed ? success.pointer : ''}
          onPick={pointer => {
            const first = members.find(each => each.pointer === pointer)?.values[0];
            onChange({ ...success, pointer, values: first ? [first.value] : null });
          }}
        />
      )}
      <TextBox
        label="JSON Pointer"
        look="code"
        placeholder="/status"
        value={place}
        onChange={next => {
          // A name is taken as well: `data.state`.
          const pointer = pointerFrom(next.trim());
          typePlace(next, pointer);
          onChange({ ...success, pointer });
        }}
      />
      <div className="space-y-1 sm:col-span-2">
        <Tick
          label="Any value: being there is enough"
          checked={success.values === null}
          onChange={is => onChange({ ...success, values: is ? null : observed.slice(0, 1).map(each => each.value) })}
        />
        {observed.map(({ value, count: many }) => (
          <Tick
            key={value}
            label={`“${value}” (${count(many)} recorded)`}
            checked={values.includes(value)}
            onChange={() => toggle(value)}
          />
        ))}
      </div>
      {success.values !== null && (
        <TextBox
          label={observed.length > 0 ? 'Other values' : 'Values'}
          hint="Separate several by commas. Case does not matter."
          placeholder="OK, accepted"
          value={text}
          onChange={next => {
            const ticked = values.filter(value => value !== '' && !unobserved.includes(value));
            const typed = [...new Set(next.split(',').map(each => each.trim()))].filter(
              each => each !== '' && !ticked.includes(each),
            );
            type(next, typed);
            onChange({ ...success, values: [...ticked, ...typed] });
          }}
        />
      )}
    </div>
  );
}
