import type { CompiledLine } from '@grammata/core/request';
import type { FieldKind } from '@grammata/core/submission';
import type { Step } from '@grammata/core/transform';
import { useWorkbench } from '../../workbench';
import type { EditLine } from '../line/editLine';
import { LineAtHand } from './lineAtHand';
import { Shown } from './Shown';
import { StepList } from './StepList';

/** The cleaning, step by step, with the value after each on the sample at hand. */
export function Steps({
  compiled,
  kind,
  edit,
}: {
  compiled: CompiledLine;
  /** What the source gives. */
  kind: FieldKind;
  edit: EditLine;
}) {
  const { sample, editing, references } = useWorkbench('editing', 'walk', 'offers');
  const routeContext = { timeZone: editing.draft.terms.timeZone };
  const raw = sample ? compiled.sourceValue(sample.scope) : null;
  return (
    <div className="mt-3 border-l-2 border-oxide pl-3.5">
      <div className="grid gap-x-4 py-0.5 sm:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] text-ink-2">
        <span>original answer</span>
        <Shown value={raw} />
      </div>
      <LineAtHand value={compiled}>
        <StepList
          references={references}
          steps={compiled.line.cleaning}
          onChange={(cleaning: Step[]) => edit(each => ({ ...each, cleaning }))}
          kind={kind}
          raw={raw}
          context={sample ? compiled.contextFor(sample.scope, routeContext) : routeContext}
        />
      </LineAtHand>
    </div>
  );
}
