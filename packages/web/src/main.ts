import { provideBrowserGlobalErrorListeners } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding, withInMemoryScrolling } from '@angular/router';
import { AppRoot } from './app/shell/app-root';
import { PARTS } from './app/shell/parts';
import { routes } from './app/shell/routes';

bootstrapApplication(AppRoot, {
  providers: [
    provideBrowserGlobalErrorListeners(),
    ...PARTS,
    provideRouter(routes, withComponentInputBinding(), withInMemoryScrolling({ scrollPositionRestoration: 'enabled' })),
  ],
}).catch((fault: unknown) => {
  document.body.textContent = `Drumline could not start: ${String(fault)}`;
});
