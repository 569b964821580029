import { bootstrapApplication } from '@angular/platform-browser';
import { config } from './app/app.config';
import { Root } from './app/root';
import { followScheme } from './app/shared/scheme';
import { guardElements } from './app/shared/trusted';

guardElements();
followScheme();

void bootstrapApplication(Root, config);
