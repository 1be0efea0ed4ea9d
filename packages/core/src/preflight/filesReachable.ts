import { defineCheck, fine, look } from './check';

/** The files of the newest submissions can be had. */
export const filesReachable = defineCheck({
  id: 'files',
  look({ files }) {
    if (!files) return [];
    if ('fault' in files) return look(`The files of the newest submissions could not be checked. ${files.fault}`);
    const { looked, faults } = files;
    if (looked === 0) return [];
    return faults.length === 0
      ? fine(`Files of the newest submissions can be downloaded: ${looked} checked.`)
      : look(`${faults.length} of ${looked} checked files can’t be downloaded. ${faults[0]!}`);
  },
});
