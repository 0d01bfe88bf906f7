import { z } from 'zod';
import { ways } from './way';

/** A way, where it comes from outside. */
export const waySchema = z.enum(ways);
