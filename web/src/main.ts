import { bootstrapApplication } from '@angular/platform-browser';
import { config } from './app/app.config';
import { Root } from './app/root';
import { guardElements } from './app/shared/trusted';

guardElements();

void bootstrapApplication(Root, config);
