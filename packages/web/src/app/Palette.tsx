import type { FindView, ThingsView } from '@grammata/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useEffect, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { fit, Floating, NothingFound, useExactTimes, useSettled, When } from '../ui';
import { api, keys } from '../api';
import { places } from './places';
import { switchTheme } from './theme';

/** ms after the last letter before submissions are looked through. */
const PAUSE = 200;

/** Search or run: every place, everything in them, and the deeds that need no place. Ctrl K or Cmd K. */
export function Palette({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const things = useThings(open);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      onOpenChange(!open);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [open, onOpenChange]);
  return (
    <Floating open={open} onOpenChange={onOpenChange} title="Search or run" hideTitle>
      <Commands close={() => onOpenChange(false)} things={things} />
    </Floating>
  );
}

const kinds = [
  { kind: 'intakes', heading: 'Intakes', to: '/intakes' },
  { kind: 'forms', heading: 'Forms', to: '/forms' },
  { kind: 'routes', heading: 'Routes', to: '/routes' },
  { kind: 'targets', heading: 'Targets', to: '/targets' },
] as const;

/** The names of what can be gone to; read when somebody looks for it. */
const useThings = (enabled: boolean) =>
  useQuery({ queryKey: keys.things, queryFn: () => api<ThingsView>('/things'), enabled });

/** What is listed is called by its first keyword; the rest are words it is found by, too. */
const rank = (value: string, typed: string, [label = value, ...words]: string[] = []) =>
  typed.trim() === '' ? 1 : fit({ label, words: [value, ...words].join(' ') }, typed);

function Commands({ close, things }: { close: () => void; things: ReturnType<typeof useThings> }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const exact = useExactTimes();
  const [typed, setTyped] = useState('');
  const wanted = useSettled(typed.trim(), PAUSE);
  const found = useQuery({
    queryKey: keys.find(wanted),
    queryFn: () => api<FindView>(`/find?${new URLSearchParams({ search: wanted })}`),
    enabled: wanted.length > 1,
  });
  const go = (to: string) => () => (close(), void navigate(to));
  const signOut = () => {
    close();
    void api('/session', { method: 'DELETE' }).then(() => client.invalidateQueries({ queryKey: keys.session }));
  };
  return (
    <Command label="Search or run" loop filter={rank}>
      <Command.Input
        autoFocus
        value={typed}
        onValueChange={setTyped}
        placeholder="Page, action, or text of a submission"
        className="w-full border-b border-rule bg-transparent px-5 py-3.5 font-serif text-lead outline-none"
      />
      <Command.List className="max-h-[50vh] overflow-auto py-2">
        <Group heading="Go to">
          {places.map(({ to, name }) => (
            <Item key={to} value={`go to ${name}`} keywords={[name]} onSelect={go(to)}>
              {name}
            </Item>
          ))}
        </Group>
        <Group heading="Do">
          <Item value="guide first form connect" keywords={['Guide: connect a form']} onSelect={go('/?guide')}>
            Guide: connect a form
          </Item>
          <Item value="new intake" keywords={['New intake']} onSelect={go('/intakes?new')}>
            New intake
          </Item>
          <Item value="new route" keywords={['New route']} onSelect={go('/routes?new')}>
            New route
          </Item>
          <Item value="new target" keywords={['New target']} onSelect={go('/targets?new')}>
            New target
          </Item>
          <Item
            value="workspace files export import folder"
            keywords={['Export or import the workspace']}
            onSelect={go('/workspace')}
          >
            Export or import the workspace
          </Item>
          <Item
            value="light dark theme"
            keywords={['Switch between light and dark']}
            onSelect={() => (close(), switchTheme())}
          >
            Switch between light and dark
          </Item>
          <Item
            value="exact times year zone seconds"
            keywords={['Show exact times']}
            onSelect={() => (close(), exact.toggle())}
          >
            {exact.isExact ? 'Show relative times' : 'Show exact times'}
          </Item>
          <Item value="sign out" keywords={['Sign out']} onSelect={signOut}>
            Sign out
          </Item>
        </Group>
        {things.data &&
          kinds.map(({ kind, heading, to }) => (
            <Group key={kind} heading={heading}>
              {things.data[kind].map(each => (
                <Item
                  key={each.id}
                  value={`${heading} ${each.name} ${'ownName' in each ? (each.ownName ?? '') : ''} ${each.id}`}
                  keywords={[each.name]}
                  onSelect={go(`${to}/${each.id}`)}
                >
                  {each.name}
                  {'ownName' in each && each.ownName && <span className="ml-2 text-ink-2">“{each.ownName}”</span>}
                </Item>
              ))}
            </Group>
          ))}
        {wanted.length > 1 && found.data && found.data.questions.length > 0 && (
          <Group heading="Questions" forced>
            {found.data.questions.map(each => (
              <Command.Item
                key={`${each.formId} ${each.key}`}
                value={`question ${each.formId} ${each.key}`}
                keywords={[typed]}
                forceMount
                onSelect={go(`/forms/${each.formId}?question=${encodeURIComponent(each.key)}`)}
                className={itemLook}
              >
                <span className="flex items-baseline gap-3">
                  <span className="min-w-0 flex-1 truncate text-lapis">{each.label}</span>
                  <span className="text-small text-ink-2">{each.formName}</span>
                </span>
              </Command.Item>
            ))}
          </Group>
        )}
        {wanted.length > 1 && found.data && found.data.submissions.length > 0 && (
          <Group heading="Submissions" forced>
            {found.data.submissions.map(each => (
              <Command.Item
                key={each.id}
                value={`submission ${each.id}`}
                keywords={[typed]}
                forceMount
                onSelect={go(`/arrivals/${each.arrivalId}`)}
                className={itemLook}
              >
                <span className="flex items-baseline gap-3">
                  <span className="min-w-0 flex-1 truncate">{each.about}</span>
                  <span className="text-small text-ink-2">
                    {each.formName}, <When at={each.receivedAt} />
                  </span>
                </span>
              </Command.Item>
            ))}
          </Group>
        )}
        {wanted.length > 1 && (
          <Group heading="Search" forced>
            <Command.Item
              value={`search deliveries ${wanted}`}
              keywords={[typed]}
              forceMount
              onSelect={go(`/deliveries?${new URLSearchParams({ search: wanted })}`)}
              className={itemLook}
            >
              Deliveries containing “{wanted}”
            </Command.Item>
          </Group>
        )}
      </Command.List>
      {wanted.length < 2 && <NothingFound className="px-5 py-3">No results.</NothingFound>}
    </Command>
  );
}

const Group = ({ heading, forced = false, children }: { heading: string; forced?: boolean; children: ReactNode }) => (
  <Command.Group
    heading={heading}
    forceMount={forced}
    className="[&_[cmdk-group-heading]]:px-5 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-fine [&_[cmdk-group-heading]]:text-ink-3"
  >
    {children}
  </Command.Group>
);

const itemLook =
  'cursor-pointer border-l-2 border-transparent px-[18px] py-1.5 data-[selected=true]:border-oxide data-[selected=true]:bg-oxide-wash';

/** What can be chosen. It is found by its name first (the keyword), then by the other words of its value. */
const Item = ({
  value,
  keywords,
  onSelect,
  children,
}: {
  value: string;
  keywords: string[];
  onSelect: () => void;
  children: ReactNode;
}) => (
  <Command.Item value={value} keywords={keywords} onSelect={onSelect} className={itemLook}>
    {children}
  </Command.Item>
);
