import { bootstrapApplication } from '@angular/platform-browser';
import { config } from './app/app.config';
import { Root } from './app/root';

void bootstrapApplication(Root, config);
