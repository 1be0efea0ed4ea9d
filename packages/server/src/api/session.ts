import { SetupInput, SignInInput, type SessionView } from '@grammata/contract';
import { Router, type Request, type Response } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import { accountOf, cookieOf, hashPassword, passwordMatches, SESSION_COOKIE, SESSION_LIFETIME } from '../access';
import { fieldFault, HttpProblem } from '../problems';
import type { Services } from '../services';
import type { Account } from '../store';
import { checked } from './validate';

/** Signing in and out, and making the owner's account at the first start. */
export function sessionApi({ store: { accounts }, config, entrance, setupToken, live }: Services): Router {
  const router = Router();
  const slowly = rateLimit({
    windowMs: 60_000,
    limit: 10,
    standardHeaders: 'draft-7',
    legacyHeaders: false,
    // Behind a proxy that is trusted each sender has tries of its own; without, nobody can pose as another.
    keyGenerator: request => ipKeyGenerator(entrance.senderOf(request) ?? ''),
    validate: false,
    message: { type: 'about:blank', title: 'Too many attempts. Wait a minute.', status: 429 },
  });
  const view = (user: Account | null): SessionView => ({
    user: user && { name: user.name, role: user.role },
    needsSetup: accounts.isEmpty(),
    demo: config.demo,
  });

  const open = (request: Request, response: Response, user: Account) => {
    const token = accounts.openSession(user.id, SESSION_LIFETIME);
    response.cookie(SESSION_COOKIE, token, {
      httpOnly: true,
      sameSite: 'strict',
      secure: config.publicUrl.startsWith('https:'),
      maxAge: SESSION_LIFETIME,
      path: '/',
    });
    response.json(view(user));
  };

  router.get('/session', (request, response) => {
    const user = accountOf(request, accounts);
    const owner = accounts.owner();
    if (!user && config.demo && owner && entrance.isLoopback(request)) return open(request, response, owner);
    response.json(view(user));
  });

  router.post('/setup', slowly, async (request, response) => {
    const { name, password, token } = checked(SetupInput, request.body);
    if (!accounts.isEmpty()) throw new HttpProblem(409, 'The owner’s account already exists. Sign in.');
    if (!setupToken.fits(token)) throw fieldFault('token', 'Wrong setup token.');
    const owner = accounts.createOwner(name, await hashPassword(password));
    if (!owner) throw new HttpProblem(409, 'The owner’s account already exists. Sign in.');
    setupToken.end();
    open(request, response, owner);
  });

  router.post('/session', slowly, async (request, response) => {
    const { password } = checked(SignInInput, request.body);
    const owner = accounts.owner();
    if (!owner || !(await passwordMatches(password, owner.passwordHash))) throw new HttpProblem(401, 'Wrong password.');
    open(request, response, owner);
  });

  router.delete('/session', (request, response) => {
    const token = cookieOf(request, SESSION_COOKIE);
    if (token) accounts.closeSession(token);
    live.publish({ type: 'signedOut' });
    response.clearCookie(SESSION_COOKIE, { path: '/' }).status(204).end();
  });
  return router;
}
