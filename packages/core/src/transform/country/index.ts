export { countryCodeOf } from './countries';
