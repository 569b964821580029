import type { Routes } from '@angular/router';
import { signedIn } from './session/signed-in.guard';
import { say } from '@domatium/core/words/app';

export const routes: Routes = [
  {
    path: 'sign-in',
    loadComponent: () => import('./session/sign-in').then((m) => m.SignIn),
    title: say.signInDomatium,
  },
  {
    path: 'welcome/:token',
    loadComponent: () => import('./people/welcome').then((m) => m.Welcome),
    title: say.welcomeDomatium,
  },
  ...['new-password', 'new-password/:token'].map((path) => ({
    path,
    loadComponent: () => import('./session/new-password').then((m) => m.NewPassword),
    title: say.aNewPasswordDomatium,
  })),
  {
    path: 'private/:token',
    loadComponent: () => import('./reviews/private-view').then((m) => m.PrivateLink),
    title: say.private,
  },
  {
    path: 'portfolios/:portfolioId',
    canActivate: [signedIn],
    children: [
      {
        path: 'pages/:pageId/edit',
        loadComponent: () => import('./editor/editor').then((m) => m.Editor),
        canDeactivate: [(editor: { leave(): Promise<boolean> }) => editor.leave()],
      },
      {
        path: 'stock/:what',
        loadComponent: () => import('./stock/stock-room').then((m) => m.StockRoom),
        canDeactivate: [(room: { leave(): Promise<boolean> }) => room.leave()],
      },
      {
        path: 'settings-grid',
        loadComponent: () => import('./grid/settings-grid').then((m) => m.SettingsGrid),
        canDeactivate: [(grid: { leave(): boolean | Promise<boolean> }) => grid.leave()],
        title: say.gridDomatium,
      },
      { path: 'pages', loadComponent: () => import('./shell/shell').then((m) => m.Shell), title: say.pagesDomatium },
      { path: '', pathMatch: 'full', redirectTo: 'pages' },
    ],
  },
  { path: '**', canActivate: [signedIn], children: [] },
];
