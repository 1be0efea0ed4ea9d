import { setTimeout as wait } from 'node:timers/promises';
import express, { Router, type RequestHandler, type Response } from 'express';
import { html, type Html } from '../page/html';
import type { FileStore } from '../store';

/** Ways to go wrong that can be switched on. */
export const faults = {
  none: 'works',
  slow: 'slow: responds after 4 seconds',
  error: 'error: 500 to every request',
  busy: 'busy: 429, Retry-After 5',
  drop: 'connection: closes it',
  token: 'token expired: 401',
} as const;
export type Fault = keyof typeof faults;

/** The form that switches a target's fault; it posts to the address below the target's page. */
export const faultSwitch = (target: string, name: string, fault: Fault): Html =>
  html`<form method="post" action="/${target}/fault" class="row">
    <label
      >${name}<select name="fault">
        ${Object.entries(faults).map(([key, words]) => html`<option value="${key}" ${key === fault && html` selected`}>${words}</option>`)}
      </select></label
    ><button>Set</button>
  </form>`;

/** Takes the switch: keeps the chosen fault and goes back to the target's page. */
export function takeFault(target: string, state: FileStore<{ fault: Fault } & object>): Router {
  const router = Router();
  router.post(`/${target}/fault`, express.urlencoded({ extended: false }), (request, response) => {
    const fault = String((request.body as Record<string, unknown>).fault);
    if (fault in faults) state.value.fault = fault as Fault;
    state.save();
    response.redirect(303, `/${target}`);
  });
  return router;
}

/** Goes wrong in the way that is switched on. */
export function misbehave(state: { fault: Fault }): RequestHandler {
  return async (request, response, next) => {
    if (state.fault === 'drop') return void request.socket.destroy();
    if (state.fault === 'error') return void problem(response, 500, 'Out of order.');
    if (state.fault === 'token') return void problem(response, 401, 'The token has expired.');
    if (state.fault === 'busy') return void problem(response.set('retry-after', '5'), 429, 'Too many requests.');
    if (state.fault === 'slow') await wait(4000);
    next();
  };
}

/** Problem details (RFC 9457). */
export const problem = (response: Response, status: number, title: string, errors?: unknown): Response =>
  response.status(status).type('application/problem+json').send(JSON.stringify({ title, status, errors }));
