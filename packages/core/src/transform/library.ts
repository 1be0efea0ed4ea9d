import { addressPart } from './address/addressPart';
import { matchChoice } from './choice/matchChoice';
import { otherChoice } from './choice/otherChoice';
import { countryCode } from './country/countryCode';
import { ageAt } from './date/ageAt';
import { formatDate } from './date/formatDate';
import { shiftDate } from './date/shiftDate';
import type { Transform } from './define';
import { emailPart } from './email/emailPart';
import { evaluate } from './expression/evaluate';
import { filePart } from './files/filePart';
import { fetchFile } from './files/fetchFile';
import { filterFiles } from './files/filterFiles';
import { hashText } from './id/hashText';
import { jsonText } from './json/jsonText';
import { pickPath } from './json/pickPath';
import { pickPointer } from './json/pickPointer';
import { arrangeList } from './list/arrangeList';
import { countItems } from './list/countItems';
import { eachItem } from './list/eachItem';
import { filterList } from './list/filterList';
import { joinList } from './list/joinList';
import { pickItem } from './list/pickItem';
import { readList } from './list/readList';
import { yesNoPerOption } from './list/yesNoPerOption';
import { insteadOf } from './logic/insteadOf';
import { valueWhen } from './logic/valueWhen';
import { lookUp } from './lookup/lookUp';
import { nameCase } from './name/nameCase';
import { namePart } from './name/namePart';
import { convertUnit } from './number/convertUnit';
import { formatNumber } from './number/formatNumber';
import { roundNumber } from './number/roundNumber';
import { scaleNumber } from './number/scaleNumber';
import { toNumber } from './number/toNumber';
import { formatPhone } from './phone/formatPhone';
import { sumColumn } from './table/sumColumn';
import { tableObjects } from './table/tableObjects';
import { tableText } from './table/tableText';
import { base64 } from './text/base64';
import { betweenMarkers } from './text/betweenMarkers';
import { changeCase } from './text/changeCase';
import { escapeText } from './text/escapeText';
import { fromMarkdown } from './text/fromMarkdown';
import { fromHtml } from './text/fromHtml';
import { keepCharacters } from './text/keepCharacters';
import { lineBreaks } from './text/lineBreaks';
import { pad } from './text/pad';
import { plainLetters } from './text/plainLetters';
import { replaceText } from './text/replaceText';
import { shorten } from './text/shorten';
import { splitText } from './text/splitText';
import { surround } from './text/surround';
import { takePart } from './text/takePart';
import { toHtml } from './text/toHtml';
import { toText } from './text/toText';
import { trim } from './text/trim';
import { unicodeForm } from './text/unicodeForm';
import { readYesNo } from './yesno/readYesNo';

/** Every transform, in the order the picker shows them. */
export const transforms = [
  trim, // text
  changeCase,
  replaceText,
  keepCharacters,
  betweenMarkers,
  takePart,
  splitText,
  shorten,
  surround,
  pad,
  lineBreaks,
  toHtml,
  fromMarkdown,
  fromHtml,
  plainLetters,
  unicodeForm,
  escapeText,
  base64,
  toText,
  namePart, // people
  nameCase,
  formatPhone,
  emailPart,
  addressPart,
  countryCode,
  readList, // lists, files, tables
  joinList,
  pickItem,
  eachItem,
  filterList,
  arrangeList,
  countItems,
  yesNoPerOption,
  filePart,
  filterFiles,
  fetchFile,
  tableText,
  tableObjects,
  sumColumn,
  toNumber, // numbers, dates, yes and no
  roundNumber,
  scaleNumber,
  convertUnit,
  formatNumber,
  formatDate,
  shiftDate,
  ageAt,
  readYesNo,
  matchChoice, // choices
  otherChoice,
  lookUp,
  insteadOf,
  valueWhen,
  jsonText, // values with parts
  pickPointer,
  pickPath,
  hashText,
  evaluate,
] as unknown as Transform[];

const byId = new Map<string, Transform>(transforms.map(each => [each.id, each]));

/** The transform with this identifier, or undefined. */
export const transformOf = (id: string): Transform | undefined => byId.get(id);
