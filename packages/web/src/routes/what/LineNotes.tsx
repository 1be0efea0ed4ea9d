import type { CompiledLine, Outcome } from '@grammata/core/request';
import { Act, counted, Note } from '../../ui';
import type { Workbench } from '../workbench';
import type { EditLine } from './editLine';

/** How many kinds of trouble a closed line tells of. */
const MOST_TROUBLES = 2;

interface LineNotesProps {
  workbench: Workbench;
  compiled: CompiledLine;
  index: number;
  outcome: Outcome | null;
  edit: EditLine;
  onOpen: () => void;
}

/** What the margin says beside a line: what is unfilled, in trouble or blank, and what can be done about it. */
export function LineNotes({
  workbench,
  compiled: { line, field, chain },
  index,
  edit,
  onOpen,
  outcome,
}: LineNotesProps) {
  const { rehearsal, showSample } = workbench;
  const totals = rehearsal?.lines[index];
  if (!field)
    return (
      <Note tone="trouble">
        The target has no field of this name any more. The line is kept; nothing is sent from it.
      </Note>
    );
  if (chain.faults[0]) return <Note tone="trouble">{chain.faults[0].message}</Note>;
  if (line.source === null)
    return field.required ? (
      <Note tone="trouble">
        Required, and nothing fills it yet. <Act onClick={onOpen}>Fill it</Act>
      </Note>
    ) : null;
  if (!totals) return null;
  const notes = totals.troubles.slice(0, MOST_TROUBLES).map(({ message, sampleIds }) => (
    <Note key={message} tone="trouble">
      {sampleIds.length > 1 && `${counted(sampleIds.length, 'submission')}: `}
      {message} <Act onClick={() => showSample(sampleIds[0]!)}>Show</Act>
    </Note>
  ));
  const more = totals.troubles.length - MOST_TROUBLES;
  const mayPass = totals.trouble > 0 && line.whenProblem === 'stop' && !field.required;
  return (
    <>
      {notes}
      {more > 0 && <Note tone="trouble">and {counted(more, 'more kind')} of trouble.</Note>}
      {mayPass && (
        <Note tone="look">
          Such a submission is held.{' '}
          <Act onClick={() => edit(each => ({ ...each, whenProblem: 'leaveOut' }))}>Leave the field out instead</Act>
        </Note>
      )}
      {totals.trouble > 0 && line.whenProblem === 'leaveOut' && !field.required && (
        <Note tone="goes">It goes without this field then.</Note>
      )}
      {totals.blank > 0 && line.whenBlank === 'leaveOut' && totals.trouble === 0 && (
        <Note tone="fine">
          {counted(totals.blank, 'blank')} {totals.blank === 1 ? 'is' : 'are'} left out; the field is optional.
        </Note>
      )}
      {outcome?.state === 'fine' && line.source.from === 'constant' && (
        <Note tone="fine">The same in every record.</Note>
      )}
    </>
  );
}
