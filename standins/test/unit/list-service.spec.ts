import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { ListService } from '../../src/list-service.js';

let server: Server;
let base = '';
beforeAll(async () => {
  const lists = new ListService();
  server = createServer((request, response) => void lists.answer(request, response));
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => void server.close());

const join = (body: string) =>
  fetch(`${base}/join`, { method: 'POST', body, headers: { 'Content-Type': 'application/x-www-form-urlencoded' } });
const overview = async () => (await fetch(base)).text();

it('takes addresses by a form and shows them, newest first', async () => {
  expect(await overview()).toContain('Nobody has joined');
  expect((await join('email=one%40a.example')).status).toBe(200);
  expect((await join('email=two%40a.example')).status).toBe(200);
  expect(await overview()).toMatch(/two@a\.example.*one@a\.example/s);
});
it('refuses what is no address, and what is more than a form sends; markup stays text', async () => {
  const before = await overview();
  for (const body of ['', 'email=', 'email=x', 'email=%3Cb%3E%40a.example', `email=${'a'.repeat(300)}%40a.example`])
    expect([body, (await join(body)).status]).toEqual([body, 422]);
  expect((await join(`email=a%40b.example&more=${'x'.repeat(10_000)}`)).status).toBe(413);
  expect(await overview()).toBe(before);
});
