import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { HttpEventType } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import { problem } from '@domatium/contracts';
import { api, Api, Cancelled, Refusal } from '../src/app/hub/api';

/** What a call came to: its answer, or what it was refused with. */
const end = <T>(call: Promise<T>) =>
  call.then(
    (value) => ({ value }),
    (error: unknown) => ({ error }),
  );

describe('a call', () => {
  const start = () => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    const http = TestBed.inject(HttpTestingController);
    const client = TestBed.inject(Api);
    client.csrf.set('own-token');
    return { http, client };
  };
  const params = { portfolioId: 1, pageId: 7 };
  const body = { version: 3, document: { metadata: { title: 'Q', description: '' }, blocks: [] } };

  it('goes to the address of its endpoint, as JSON, with the token of the session where it changes something', async () => {
    const { http, client } = start();
    const saved = end(client.call(api.saveDraft, { params, body: body as never }, { work: 'w1' }));
    const sent = http.expectOne('/api/portfolios/1/pages/7/draft');
    expect([sent.request.method, sent.request.body]).toEqual(['PUT', body]);
    expect(['Content-Type', 'X-Csrf-Token', 'X-Work'].map((name) => sent.request.headers.get(name))).toEqual([
      ...['application/json', 'own-token', 'w1'],
    ]);
    sent.flush(JSON.stringify({ version: 4 }));
    expect(await saved).toEqual({ value: { version: 4 } });

    const asked = end(
      client.call(api.addressCheck, { params: { portfolioId: 1 }, query: { siteId: 2, path: '/a b' } }),
    );
    const question = http.expectOne(({ url }) => url === '/api/portfolios/1/address-check?siteId=2&path=%2Fa+b');
    expect(question.request.headers.has('X-Csrf-Token')).toBe(false);
    question.flush('{}');
    expect(await asked).toEqual({ value: {} });
  });

  it('that is refused says what and where; without a connection, or an answer of ours, that it may go later', async () => {
    const { http, client } = start();
    const ends = [0, 1, 2, 3].map(() => end(client.call(api.saveDraft, { params, body: body as never })));
    const [refused, cut, between, gone] = http.match(() => true);
    const fields = [{ path: 'document.blocks[0]', message: 'Unknown block.' }];
    refused?.flush(JSON.stringify(problem('invalid', 'Something needs changing.', { fields })), {
      status: 422,
      statusText: '',
    });
    cut?.error(new ProgressEvent('error'));
    between?.flush('<h1>Bad gateway</h1>', { status: 502, statusText: '' });
    gone?.flush('', { status: 503, statusText: '' });
    const all = (await Promise.all(ends)).map((one) => ('error' in one ? (one.error as Refusal) : null));
    expect(all.map((one) => [one instanceof Refusal, one?.status, one?.code, one?.isPassing])).toEqual([
      [true, 422, 'invalid', false],
      [true, 0, null, true],
      [true, 502, null, true],
      [true, 503, null, true],
    ]);
    expect(all[0]?.at('document.blocks[0]')).toBe('Unknown block.');
    expect(all[1]?.message).toContain('Your text is kept');
  });

  it('that somebody cancels is hung up, and is not mistaken for a lost connection', async () => {
    const { http, client } = start();
    const stop = new AbortController();
    const call = end(client.call(api.saveDraft, { params, body: body as never }, { signal: stop.signal }));
    const request = http.expectOne(() => true);
    stop.abort();
    expect(request.cancelled).toBe(true);
    expect(((await call) as { error: unknown }).error).toBeInstanceOf(Cancelled);
    const late = await end(client.call(api.saveDraft, { params, body: body as never }, { signal: stop.signal }));
    expect((late as { error: unknown }).error).toBeInstanceOf(Cancelled);
    http.expectNone(() => true);
  });

  it('with a file sends its bytes and tells how far it is; a large answer stays text, and an empty one is none', async () => {
    const { http, client } = start();
    const shares: number[] = [];
    const file = new Blob(['a picture']);
    const query = { name: 'a.png' } as never;
    const sent = end(
      client.send(api.receive, { params: { portfolioId: 1 }, query }, file, (share) => shares.push(share)),
    );
    const upload = http.expectOne(({ url }) => url.endsWith('?name=a.png'));
    expect([upload.request.body, upload.request.headers.get('Content-Type')]).toEqual([
      file,
      'application/octet-stream',
    ]);
    upload.event({ type: HttpEventType.UploadProgress, loaded: 3, total: 9 });
    upload.flush('{"picture":null}');
    expect([await sent, shares]).toEqual([{ value: { picture: null } }, [1 / 3]]);

    const [whole, none] = [1, 2].map(() => end(client.text(api.register, { params: { portfolioId: 1 }, query: {} })));
    const [first, second] = http.match(() => true);
    first?.flush('{"size":10000}');
    second?.flush('');
    expect(await whole).toEqual({ value: '{"size":10000}' });
    expect(((await none) as { error: Refusal }).error.isPassing).toBe(true);
  });
});
