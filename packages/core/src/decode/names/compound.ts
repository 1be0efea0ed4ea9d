import { isJsonObject, type Json, type JsonObject } from '../../submission';
import { nameWords } from './roles';

/** Words that name the parts of names and addresses. Common practice, no source. */
const nameParts = new Set([
  'first',
  'last',
  'given',
  'family',
  'middle',
  'prefix',
  'suffix',
  'surname',
  'forename',
  'salutation',
  'title',
  'additional',
  'firstname',
  'lastname',
  'givenname',
  'familyname',
  'vorname',
  'nachname',
  'honorific',
  'initials',
  'prenom',
  'nom',
  'nombre',
  'apellido',
  'apellidos',
  'voornaam',
  'achternaam',
  'imie',
  'nazwisko',
  'nome',
  'cognome',
  'sobrenome',
  'anrede',
  '姓',
  '名',
]);
const addressParts = new Set([
  'street',
  'line',
  'line1',
  'line2',
  'addr',
  'address',
  'city',
  'town',
  'locality',
  'region',
  'state',
  'province',
  'county',
  'zip',
  'postcode',
  'postal',
  'zipcode',
  'country',
  'house',
  'road',
  'village',
  'district',
  'plz',
  'ort',
  'strasse',
  'address1',
  'address2',
  'suburb',
  'calle',
  'colonia',
  'ciudad',
  'cp',
  'codigo',
  'provincia',
  'pais',
  'rue',
  'ville',
  'postal',
  'pays',
  'straße',
  'hausnummer',
  'stadt',
  'postleitzahl',
  'land',
  'straat',
  'huisnummer',
  'woonplaats',
  'plaats',
  'via',
  'citta',
  'cap',
  'ulica',
  'miasto',
  'rua',
  'cidade',
  '住所',
  '市区町村',
  '都道府県',
]);
const filler = new Set(['name', 'code', 'number', 'no', '1', '2', '3', 'full', 'of', 'and']);

const partsOf = (value: JsonObject): string[][] => Object.keys(value).map(nameWords);
const allSpeakOf = (value: JsonObject, parts: Set<string>): boolean => {
  const words = partsOf(value);
  return (
    words.length > 1 &&
    words.filter(each => each.some(word => parts.has(word))).length / words.length > 0.7 &&
    words.every(each => each.every(word => parts.has(word) || filler.has(word)) || each.some(word => parts.has(word)))
  );
};

export const isNameObject = (value: JsonObject): boolean =>
  allSpeakOf(value, nameParts) && Object.values(value).every(isTextual);
export const isAddressObject = (value: JsonObject): boolean =>
  allSpeakOf(value, addressParts) && Object.values(value).every(isTextual);

const isTextual = (value: Json) => value === null || typeof value === 'string' || typeof value === 'number';

/** True for one answer of several parts, such as `{ first, last }` or `{ street, city, postcode }`. */
export function isCompound(name: string, value: JsonObject): boolean {
  if (isNameObject(value) || isAddressObject(value)) return true;
  const keys = Object.keys(value);
  return keys.length > 1 && keys.every(key => /^\d+$/.test(key)) && Object.values(value).every(isJsonObject);
}

const isMark = (value: Json) =>
  typeof value === 'boolean' ||
  (typeof value === 'string' && /^(on|off|true|false|yes|no|checked|1|0|)$/i.test(value)) ||
  value === 1 ||
  value === 0 ||
  value === null;

/** True for a group of checkboxes that were sent one key an option: `{ Foam: true, Litter: false }`. */
export function isCheckboxGroup(value: JsonObject): boolean {
  const all = Object.values(value);
  return (
    all.length > 1 &&
    all.every(isMark) &&
    (all.every(each => typeof each === 'boolean') ||
      all.every(each => typeof each === 'string' || each === null) ||
      all.every(each => each === 0 || each === 1))
  );
}

export const isMarked = (value: Json): boolean =>
  value === true || value === 1 || (typeof value === 'string' && /^(on|true|yes|checked|1)$/i.test(value));

/** `{ Hull: 'Good', Oars: 'Worn' }` under a key like `condition`: row labels as people read them, one mark each. */
export const isMatrix = (value: JsonObject): boolean =>
  Object.keys(value).length > 1 &&
  Object.entries(value).every(([row, mark]) => /^\p{Lu}|\s/u.test(row) && ['string', 'number'].includes(typeof mark));
