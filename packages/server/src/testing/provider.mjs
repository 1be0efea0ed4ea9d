/**
 * An independent OAuth 2 provider (oidc-provider) in a process of its own: told its clients in the environment, it says on which port it
 * listens. Anybody may sign in, and consents by pressing a button.
 */
import { createServer } from 'node:http';
import Provider from 'oidc-provider';

const clients = JSON.parse(process.env.CLIENTS);
const server = createServer();
server.listen(0, '127.0.0.1', () => {
  const issuer = `http://127.0.0.1:${server.address().port}`;
  const provider = new Provider(issuer, {
    clients,
    features: { devInteractions: { enabled: true }, revocation: { enabled: true } },
    pkce: { required: () => true },
    issueRefreshToken: async () => true,
    rotateRefreshToken: true,
    ttl: {
      AccessToken: Number(process.env.LASTS ?? 3600),
      RefreshToken: 3600,
      Grant: 3600,
      Session: 3600,
      Interaction: 600,
      IdToken: 600,
    },
    cookies: { keys: ['test'] },
    findAccount: (_ctx, id) => ({ accountId: id, claims: () => ({ sub: id }) }),
  });
  server.on('request', provider.callback());
  process.stdout.write(`${issuer}\n`);
});
