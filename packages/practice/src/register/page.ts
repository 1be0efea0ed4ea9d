import { changeSection } from '../changing';
import { faultSwitch } from '../faults';
import { html, type Html } from '../page/html';
import { columnEditKinds } from './edits';
import type { RegisterState } from './state';
import type { Table } from './tables';

const MOST_SHOWN = 200;

const shown = (value: unknown): Html | string => {
  if (Array.isArray(value)) return html`${value.map((each, index) => html`${index > 0 && ', '}${shown(each)}`)}`;
  if (typeof value === 'object' && value !== null && 'url' in value)
    return html`<a href="${(value as { url: string }).url}">${(value as { name?: string }).name ?? 'file'}</a>`;
  return value === undefined || value === null ? '' : typeof value === 'object' ? JSON.stringify(value) : String(value);
};

/** The register's page: its tables, newest records first, and the switch for faults. */
export function registerPage(state: RegisterState, tables: Table[], table: Table): Html {
  const records = [...(state.records[table.key] ?? [])].reverse();
  const columns = table.columns.filter(column => !column.readOnly);
  return html`<h1>Register</h1>
    <p class="soft">${records.length} records in ${table.title}, newest first.</p>
    <div class="row">
      <nav aria-label="Tables">
        ${tables.map(each => html`<a href="/register?table=${each.key}" ${each === table && html` aria-current="page"`}>${each.title} (${state.records[each.key]?.length ?? 0})</a> `)}
      </nav>
      ${faultSwitch('register', 'The register', state.fault)}
    </div>
    ${changeSection({
      action: '/register/columns',
      heading: 'Change its columns',
      hidden: { table: table.key },
      part: {
        name: 'column',
        label: 'Column to change',
        options: Object.fromEntries(columns.map(each => [each.key, each.title])),
      },
      kinds: columnEditKinds,
      isChanged: (state.edits ?? []).length > 0,
    })}
    <h2>${table.title}</h2>
    ${
      records.length === 0
        ? html`<p class="soft">No records yet.</p>`
        : html`<div class="scroll" tabindex="0" role="region" aria-label="Records">
            <table class="wide">
              <tr>
                <th>No.</th>
                ${columns.map(column => html`<th>${column.title}</th>`)}
              </tr>
              ${records.slice(0, MOST_SHOWN).map(
                record =>
                  html`<tr>
                    <td>${record.no}</td>
                    ${columns.map(column => html`<td>${shown(record.values[column.key])}</td>`)}
                  </tr>`,
              )}
            </table>
          </div>`
    }`;
}
