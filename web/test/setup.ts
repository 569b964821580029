import '@angular/localize/init';
import { setupZonelessTestEnv } from 'jest-preset-angular/setup-env/zoneless';

setupZonelessTestEnv({ errorOnUnknownElements: true, errorOnUnknownProperties: true });

class NoResizeObserver implements ResizeObserver {
  observe(): void {
    return;
  }
  unobserve(): void {
    return;
  }
  disconnect(): void {
    return;
  }
}
globalThis.ResizeObserver ??= NoResizeObserver;
// Files have no addresses here; what is shown of them is looked at in a browser.
URL.createObjectURL ??= () => 'blob:here';
URL.revokeObjectURL ??= () => undefined;
HTMLCanvasElement.prototype.getContext = () => null;

// Nothing waits for real time: tests let it pass.
beforeEach(() => jest.useFakeTimers({ doNotFake: ['Date', 'performance', 'queueMicrotask', 'nextTick'] }));
afterEach(() => jest.useRealTimers());
