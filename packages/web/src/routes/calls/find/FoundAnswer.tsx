import type { CallInput, FindInput, LookView } from '@grammata/contract';
import { findRoles, identifierAt, pointFind, recordsIn, type FindRole } from '@grammata/core/perform';
import { placeAt, placeWords } from '@grammata/core/scope';
import { asText } from '@grammata/core/submission';
import { wordsFor } from '../../../api';
import { Act, counted, Fault, PointAt } from '../../../ui';
import { useLook } from '../../queries';
import { useWorkbench } from '../../workbench';

const roleWords: Record<FindRole, string> = {
  list: 'List of records',
  equals: 'Value to compare',
  id: 'Record ID',
};

/** What the target answers for the sample at hand, asked on the spot; what stands where in it is pointed at. */
export function FoundAnswer({ find, onChange }: { find: FindInput; onChange: (find: FindInput) => void }) {
  const { route, call, sample, editing, editCall } = useWorkbench('route', 'editing', 'call', 'walk');
  const look = useLook(route.id);
  const ask = async () => {
    // It is asked as it is stored.
    await editing.flush();
    if (sample) look.mutate({ sampleId: sample.id, callId: call.id, find });
  };
  const point = (role: FindRole, pointer: string) => {
    const answer = look.data?.answer ?? null;
    const next = pointFind(find, role, answer, pointer);
    if ('refusal' in next) return next.refusal;
    if (role === 'id') editCall(before => withFound(before, identifierAt(answer, pointer)));
    onChange(next as FindInput);
    return null;
  };
  return (
    <div className="mt-4">
      <p>
        <Act onClick={() => void ask()} disabled={!sample}>
          {look.isPending ? 'Sending…' : look.data ? 'Send again' : 'Send the look-up for this sample'}
        </Act>{' '}
        <span className="text-ink-3">and point at the places in its response</span>
      </p>
      {look.error && <Fault>{wordsFor(look.error)}</Fault>}
      {look.data && look.variables.sampleId !== sample?.id && (
        <p className="pt-2 text-ochre">This response is for another sample.</p>
      )}
      {look.data && <Told look={look.data} find={find} />}
      {look.data && look.data.answer !== null && (
        <PointAt
          name="found-role"
          roles={findRoles.map(each => ({ value: each, label: roleWords[each] }))}
          first="equals"
          document={look.data.answer}
          tags={tagsOf(look.data, find, call)}
          onPoint={point}
        >
          {!find.takesAny && (
            <p className="mt-2">
              <Act onClick={() => onChange({ ...find, equals: '', takesAny: true })}>The response is the record</Act>
            </p>
          )}
        </PointAt>
      )}
    </div>
  );
}

const withFound = (call: CallInput, found: string): CallInput => ({
  ...call,
  identity: { found, made: call.identity?.made ?? '/id' },
});

function Told({ look, find }: { look: LookView; find: FindInput }) {
  const found = look.answer === null ? 0 : recordsIn(look.answer, find, look.wanted).length;
  const isOpen = find.equals === '' && !find.takesAny;
  return (
    <p className="mt-1 font-serif" aria-live="polite">
      {look.status === null ? look.message : `Status ${look.status}. `}
      {look.status !== null &&
        !isOpen &&
        (found === 0
          ? `No record matches “${asText(look.wanted)}”.`
          : `${counted(found, 'record')} ${found === 1 ? 'matches' : 'match'} “${asText(look.wanted)}”.`)}
    </p>
  );
}

/** What the places of an answer are, as it is composed. */
function tagsOf(
  { answer, wanted }: LookView,
  { list, equals, takesAny, update }: FindInput,
  { identity }: CallInput,
): Map<string, string> {
  const tags = new Map<string, string>();
  const held = placeAt(answer, list);
  const records = Array.isArray(held) ? held.map((_, index) => `${list}/${index}`) : [list];
  if (list !== '' || equals !== '' || takesAny) tags.set(list, Array.isArray(held) ? 'the records' : 'the record');
  const id = identity?.found || update?.from;
  for (const record of records.slice(0, 20)) {
    const isIt = asText(placeAt(answer, `${record}${equals}`) ?? null) === asText(wanted);
    if (equals !== '') tags.set(`${record}${equals}`, isIt ? 'the value to compare' : 'another');
    if (id) tags.set(`${record}${id}`, id === equals ? `${placeWords(equals)}, the record ID` : 'identifies it');
  }
  return tags;
}
