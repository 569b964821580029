import { provideHttpClient } from '@angular/common/http';
import { provideZonelessChangeDetection, type ApplicationConfig } from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { routes } from './app.routes';
import { AFTER_SIGN_IN } from './hub/after-sign-in';
import { deskInWorker } from './hub/desk-worker';

/** Where it fails it is fetched again when it is needed. */
const afterSignIn = () =>
  Promise.all([import('./hub/register.service'), import('./shell/shell')]).then(
    ([{ RegisterService }]) => RegisterService,
    () => null,
  );

export const config: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideHttpClient(),
    provideRouter(routes, withComponentInputBinding()),
    deskInWorker,
    { provide: AFTER_SIGN_IN, useValue: afterSignIn },
  ],
};
