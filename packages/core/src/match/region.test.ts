import examples from 'libphonenumber-js/mobile/examples';
import { getCountries, getExampleNumber } from 'libphonenumber-js';
import { regionOf, type OtherAnswers } from './region';

// Numbers in ranges that are kept free for fiction: Ofcom’s for drama, 555-01xx of the North American plan, Bundesnetzagentur’s; from memory.
describe('where telephone numbers belong follows from the answers', () => {
  test.each<[string, string[], OtherAnswers[], string, string]>([
    [
      'an address with a postcode',
      ['020 7946 0142'],
      [{ key: 'where', values: ['1 Hill, Otterby, AB1 2CD'] }],
      'GB',
      '',
    ],
    ['another one', ['802 555 0147'], [{ key: 'where', values: ['1 Hill, Otterby, VT 05401'] }], 'US', ''],
    ['as London writes, and others too', ['020 7946 0142', '07700 900123'], [], '', ''],
    ['as the North American plan writes', ['(802) 555-0147', '802-555-0112'], [], 'US', ''],
    ['those with a code tell of the others', ['+49 30 23125012', '030 23125042'], [], 'DE', ''],
    ['all with a code', ['+49 30 23125012', '0049 30 23125042'], [], 'DE', ''],
    ['a question for the country', ['8025550147'], [{ key: 'land', values: ['United States', 'USA'] }], 'US', 'land'],
    [
      'an address in parts',
      ['8025550147'],
      [{ key: 'where', values: [{ street: '1 Hill', country: 'US' }] }],
      'US',
      '',
    ],
    ['an address in a line', ['8025550147'], [{ key: 'where', values: ['1 Hill, Otterby, United States'] }], 'US', ''],
    ['nothing tells', ['8025550147'], [], '', ''],
    ['nothing is there', [], [], '', ''],
    ['words', ['ask my mum', 'none'], [], '', ''],
    ['what the country does not have', ['020 7946 0142'], [{ key: 'land', values: ['Malta'] }], '', 'land'],
  ])('%s', (_, values, others, region, countryFrom) =>
    expect(regionOf(values, others)).toEqual({ region, countryFrom }),
  );

  test('a region is never made up: for example numbers of every region, another one is hardly ever concluded', () => {
    const wrong = getCountries().filter(region => {
      const example = getExampleNumber(region, examples)!;
      const { region: said } = regionOf([example.formatNational()]);
      return (
        said !== '' && getExampleNumber(said as never, examples)!.countryCallingCode !== example.countryCallingCode
      );
    });
    expect(wrong).toEqual([]);
  });
});
