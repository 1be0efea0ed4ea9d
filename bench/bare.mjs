/** A bare Express handler with one durable insert through the same driver: what the intake is held against. */
import Libsql from 'libsql';
import express from 'express';

const [port, file] = process.argv.slice(2);
const db = new Libsql(file);
db.exec(
  'PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; CREATE TABLE bodies (id TEXT PRIMARY KEY, at INTEGER, body BLOB)',
);
const insert = db.prepare('INSERT INTO bodies VALUES (?, ?, ?)');
const app = express();
let next = 0;
app.post('/in', express.raw({ type: () => true }), (request, response) => {
  const id = String(next++);
  insert.run(id, Date.now(), request.body);
  response.status(202).json({ id });
});
app.listen(Number(port), '127.0.0.1');
