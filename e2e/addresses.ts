/** Where the servers under test listen. */
export const demo = { port: 4610, practicePort: 4710, url: 'http://127.0.0.1:4610', practice: 'http://127.0.0.1:4710' };
export const fresh = { port: 4620, url: 'http://127.0.0.1:4620' };
