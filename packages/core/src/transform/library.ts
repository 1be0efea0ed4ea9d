import { formatDate } from './date/formatDate';
import type { Transform } from './define';
import { joinList } from './list/joinList';
import { readList } from './list/readList';
import { toNumber } from './number/toNumber';
import { changeCase } from './text/changeCase';
import { trim } from './text/trim';

/** Every transform, in the order the picker shows them. */
export const transforms = [
  trim, // text
  changeCase,
  readList, // list
  joinList,
  toNumber, // number
  formatDate, // date
] as unknown as Transform[];

const byId = new Map(transforms.map(each => [each.id, each]));

/** The transform with this identifier, or undefined. */
export const transformOf = (id: string): Transform | undefined => byId.get(id);
