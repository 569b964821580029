import { html } from '../../html/index.js';
import { viewOf } from '../definition.js';
import { CELLS, type Row, type Table } from './schema.js';

export const tableView = viewOf<Table>({
  render: ({ layout, head, heading, items, note }, context) => {
    const keys = CELLS.filter((key) => items.some((row) => row[key]));
    const heads = head === 'none' ? 0 : 1;
    const cell = (row: Row, n: number, key: (typeof CELLS)[number], index: number) => {
      const at = context.at(`items[${n}].${key}`);
      if (n === 0 && head !== 'none') return html`<th scope="col"${at}>${row[key]}</th>`;
      return index === 0 ? html`<th scope="row"${at}>${row[key]}</th>` : html`<td${at}>${row[key]}</td>`;
    };
    const rowOf = (row: Row, n: number) => html`<tr>${keys.map((key, index) => cell(row, n, key, index))}</tr>`;
    return html`
    <div class="table ${layout}"><div class="table-scroll" tabindex="0" role="group" aria-label="${heading || 'Table'}"><table>
      ${heading && html`<caption${context.at('heading')}>${heading}</caption>`}
      ${heads > 0 && html`<thead>${items.slice(0, heads).map(rowOf)}</thead>`}<tbody>${items.slice(heads).map((row, n) => rowOf(row, n + heads))}</tbody>
    </table></div>${note && html`<p class="table-note"${context.at('note')}>${note}</p>`}</div>`;
  },
  style: `
.table{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.table-scroll{overflow-x:auto}
.table table{border-collapse:collapse;width:100%;font-variant-numeric:tabular-nums}
.table caption{text-align:start;font:var(--display-weight) var(--step-2)/1.2 var(--display);letter-spacing:var(--display-spacing);padding-bottom:1.25rem}
.table th,.table td{text-align:start;vertical-align:top;padding-block:.7rem;padding-inline:0 1rem;border-bottom:1px solid color-mix(in srgb,var(--ink) 16%,transparent);font-weight:400}
.table thead th{font-weight:650;border-bottom:2px solid var(--ink)}
.table tbody th{font-weight:560}
.table.figures td,.table.figures thead th:not(:first-child){text-align:end;padding-inline:1rem 0}
.table.banded tbody tr:nth-child(odd){background:var(--tint)}.table.banded th,.table.banded td{padding-inline:1rem}
.table-note{font-size:var(--small);color:var(--quiet);margin:1rem 0 0}`,
});
