import { matchChoice } from './choice/matchChoice';
import { countryCode } from './country/countryCode';
import { formatDate } from './date/formatDate';
import type { Transform } from './define';
import { emailPart } from './email/emailPart';
import { filePart } from './files/filePart';
import { hashText } from './id/hashText';
import { jsonText } from './json/jsonText';
import { pickPointer } from './json/pickPointer';
import { arrangeList } from './list/arrangeList';
import { countItems } from './list/countItems';
import { filterList } from './list/filterList';
import { joinList } from './list/joinList';
import { pickItem } from './list/pickItem';
import { readList } from './list/readList';
import { insteadOf } from './logic/insteadOf';
import { lookUp } from './lookup/lookUp';
import { nameCase } from './name/nameCase';
import { namePart } from './name/namePart';
import { formatNumber } from './number/formatNumber';
import { roundNumber } from './number/roundNumber';
import { scaleNumber } from './number/scaleNumber';
import { toNumber } from './number/toNumber';
import { formatPhone } from './phone/formatPhone';
import { sumColumn } from './table/sumColumn';
import { tableText } from './table/tableText';
import { betweenMarkers } from './text/betweenMarkers';
import { changeCase } from './text/changeCase';
import { escapeText } from './text/escapeText';
import { keepCharacters } from './text/keepCharacters';
import { lineBreaks } from './text/lineBreaks';
import { pad } from './text/pad';
import { plainLetters } from './text/plainLetters';
import { replaceText } from './text/replaceText';
import { shorten } from './text/shorten';
import { surround } from './text/surround';
import { takePart } from './text/takePart';
import { trim } from './text/trim';
import { readYesNo } from './yesno/readYesNo';

/** Every transform, in the order the picker shows them. */
export const transforms = [
  trim, // text
  changeCase,
  replaceText,
  keepCharacters,
  betweenMarkers,
  takePart,
  shorten,
  surround,
  pad,
  lineBreaks,
  plainLetters,
  escapeText,
  namePart, // people
  nameCase,
  formatPhone,
  emailPart,
  countryCode,
  readList, // lists, files, tables
  joinList,
  pickItem,
  filterList,
  arrangeList,
  countItems,
  filePart,
  tableText,
  sumColumn,
  toNumber, // numbers, dates, yes and no
  roundNumber,
  scaleNumber,
  formatNumber,
  formatDate,
  readYesNo,
  matchChoice, // choices
  lookUp,
  insteadOf,
  jsonText, // values with parts
  pickPointer,
  hashText,
] as unknown as Transform[];

const byId = new Map(transforms.map(each => [each.id, each]));

/** The transform with this identifier, or undefined. */
export const transformOf = (id: string): Transform | undefined => byId.get(id);
