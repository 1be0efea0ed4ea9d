import { useState } from 'react';
import { wordsFor } from '../../api';
import { Act, counted, Empty, Fault, Moment } from '../../ui';
import { useVersions } from '../queries';
import { useWorkbench } from '../workbench';
import { differencesOf } from '@grammata/core/route';
import { Differences } from './Differences';

/** What was live: published by whom and when, and how each version differs from the one before; first, how the draft differs. */
export function Versions() {
  const { route, editing } = useWorkbench('route', 'editing');
  const versions = useVersions(route.id);
  const [open, setOpen] = useState<number | 'draft' | null>('draft');
  if (versions.error)
    return (
      <div className="px-6">
        <Fault again={() => void versions.refetch()}>{wordsFor(versions.error)}</Fault>
      </div>
    );
  if (!versions.data) return <p className="px-6 py-4 font-serif text-ink-3">Loading versions…</p>;
  const [live, ...others] = versions.data;
  if (!live)
    return (
      <div className="px-6">
        <Empty title="Never live">Each time the route is published, a version is saved here.</Empty>
      </div>
    );
  const all = [live, ...others];
  const toggle = (which: number | 'draft') => setOpen(open === which ? null : which);
  const edited = differencesOf(live.definition, editing.draft).length;
  return (
    <div className="px-6 pb-12">
      <ol>
        <li className="border-b border-rule py-2.5">
          <h2 className="flex items-baseline gap-4 font-sans text-body font-semibold">
            Draft
            <span className="font-normal text-ink-2">
              {edited === 0
                ? `same as version ${live.number}`
                : `${counted(edited, 'difference')} from version ${live.number}`}
            </span>
            <span className="flex-1" />
            {edited > 0 && (
              <Act aria-expanded={open === 'draft'} onClick={() => toggle('draft')}>
                {open === 'draft' ? 'Close' : 'Differences'}
              </Act>
            )}
          </h2>
          {open === 'draft' && edited > 0 && (
            <div className="mt-2">
              <Differences before={live.definition} after={editing.draft} names={[`Version ${live.number}`, 'Draft']} />
            </div>
          )}
        </li>
        {all.map((version, at) => {
          const before = all[at + 1];
          return (
            <li key={version.number} className="border-b border-rule py-2.5">
              <h2 className="flex items-baseline gap-4 font-sans text-body font-semibold">
                Version {version.number}
                <span className="font-normal text-ink-2">
                  <Moment at={version.at} />
                  {version.by && `, by ${version.by}`}
                  {version.formId !== route.formId && `, for the form “${version.formName}”`}
                  {at === 0 && route.state !== 'draft' && ` · ${route.state}`}
                </span>
                <span className="flex-1" />
                {before && (
                  <Act aria-expanded={open === version.number} onClick={() => toggle(version.number)}>
                    {open === version.number ? 'Close' : `Changes since version ${before.number}`}
                  </Act>
                )}
              </h2>
              {before && open === version.number && (
                <div className="mt-2">
                  <Differences
                    before={before.definition}
                    after={version.definition}
                    names={[`Version ${before.number}`, `Version ${version.number}`]}
                  />
                </div>
              )}
              {at > 0 && (
                <Act
                  className="text-small"
                  onClick={() => editing.edit(() => version.definition)}
                  disabled={
                    version.formId !== route.formId || differencesOf(version.definition, editing.draft).length === 0
                  }
                  title={version.formId === route.formId ? undefined : 'First switch the form under Delivery.'}
                >
                  Copy version {version.number} to the draft
                </Act>
              )}
            </li>
          );
        })}
      </ol>
    </div>
  );
}
