import { beforeEach, describe, expect, it, jest } from '@jest/globals';
import { codesScript, consentHtml } from '@domatium/core/codes';
import { pastedCode } from '../src/app/stock/pasted-code';

/** A page with codes, as it is when its script has run. */
function visit(codes: readonly (readonly unknown[])[], asked: ('measuring' | 'advertising')[] = ['measuring']) {
  document.head.innerHTML = '';
  document.body.innerHTML = asked.length ? consentHtml(asked, 'en').markup : '';
  const script = document.createElement('script');
  script.dataset['codes'] = JSON.stringify(codes);
  Object.defineProperty(document, 'currentScript', { value: script, configurable: true });
  Object.defineProperty(document, 'readyState', { value: 'complete', configurable: true });
  const begins = jest.spyOn(document, 'addEventListener').mockImplementation((type, listener) => {
    if (type === 'DOMContentLoaded') waiting.push(listener as () => void);
  });
  const waiting: (() => void)[] = [];
  // As browsers run it; it is a text of the product.
  new Function(codesScript)();
  begins.mockRestore();
  for (const begin of waiting) begin();
}
const running = () => [...document.querySelectorAll('script')].map((one) => one.getAttribute('src'));
const press = (how: string) => document.querySelector<HTMLElement>(`[data-allow="${how}"]`)?.click();
const notice = () => document.querySelector<HTMLElement>('.choices');
const again = () => document.querySelector<HTMLElement>('.choices-again');

const MEASURE = ['/m.js', 0, 'after', 'measuring', [['site-id', '4']]] as const;
const ADVERTISE = ['/a.js', 1, 'at-once', 'advertising', []] as const;
const NEEDED = ['/n.js', 0, 'after', '', []] as const;

describe('codes in a browser', () => {
  beforeEach(() => localStorage.clear());
  it('run where they are necessary; the others once they are allowed, and each once', () => {
    visit([MEASURE, NEEDED]);
    expect([running(), notice()?.hidden, again()?.hidden]).toEqual([['/n.js'], false, true]);
    press('all');
    expect(running()).toEqual(['/n.js', '/m.js']);
    expect(document.querySelector('[src="/m.js"]')?.getAttribute('data-site-id')).toBe('4');
    expect([notice()?.hidden, again()?.hidden, document.activeElement?.textContent]).toEqual([
      ...[true, false, 'Privacy choices'],
    ]);
    press('all');
    expect(running()).toEqual(['/n.js', '/m.js']);
    visit([MEASURE, NEEDED]);
    expect([running(), notice()?.hidden]).toEqual([['/m.js', '/n.js'], true]);
  });
  it('run for nobody who said no, who said it of one purpose, or who was asked before there was another', () => {
    visit([MEASURE, ADVERTISE], ['measuring', 'advertising']);
    press('none');
    expect(running()).toEqual([]);
    visit([MEASURE, ADVERTISE], ['measuring', 'advertising']);
    expect([running(), notice()?.hidden]).toEqual([[], true]);
    again()?.querySelector('button')?.click();
    expect([notice()?.hidden, document.activeElement]).toEqual([false, notice()]);
    document.querySelector<HTMLInputElement>('[value=advertising]')?.click();
    press('ticked');
    expect(running()).toEqual(['/a.js']);
    localStorage.setItem('allowed-codes', '{"measuring":1}');
    visit([MEASURE, ADVERTISE], ['measuring', 'advertising']);
    expect([running(), notice()?.hidden]).toEqual([['/m.js'], false]);
  });
  it('ask again where what was kept can’t be read, and keep a choice for the page where nothing can be kept', () => {
    localStorage.setItem('allowed-codes', '{not json');
    visit([MEASURE]);
    expect([running(), notice()?.hidden]).toEqual([[], false]);
    localStorage.setItem('allowed-codes', 'null');
    visit([MEASURE]);
    press('all');
    expect(running()).toEqual(['/m.js']);
  });
  it('wait for the first thing a visitor does, where they are to', () => {
    visit([['/f.js', 1, 'first-act', '', []]], []);
    expect(running()).toEqual([]);
    window.dispatchEvent(new Event('keydown'));
    window.dispatchEvent(new Event('scroll'));
    expect(running()).toEqual(['/f.js']);
  });
});

describe('a pasted element', () => {
  it('gives its address with its parameters, or its script; of several, none', () => {
    expect(pastedCode(`<script async data-site="4" src="//count.example/c.js"></script>`)).toEqual({
      source: { kind: 'address', url: 'https://count.example/c.js' },
      data: [{ name: 'site', value: '4' }],
    });
    expect(pastedCode(`<!-- count --><script>\n go("</b>"); \n</script>`)).toEqual({
      source: { kind: 'script', script: 'go("</b>");' },
    });
    expect([pastedCode('go()'), pastedCode('<script src="a"></script><script>b()</script>')]).toEqual([
      null,
      'several',
    ]);
  });
});
