import { expose } from 'comlink';
import { Desk } from './desk';

/** The register's table and every question about it, away from the interface. */
expose(new Desk());
