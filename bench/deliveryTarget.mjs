/** A target that takes everything and does nothing: the least that a request can cost. */
import { createServer } from 'node:http';

const server = createServer((request, response) => {
  request.resume().on('end', () => {
    response.writeHead(201, { 'content-type': 'application/json' });
    response.end('{"record_no":1}');
  });
});
server.listen(0, '127.0.0.1', () =>
  process.send({ baseUrl: `http://127.0.0.1:${server.address().port}`, token: 'bench-token-4711' }),
);
process.on('disconnect', () => process.exit());
