/** Identifiers. */
import { nanoid } from 'nanoid';

/** A fresh identifier. */
export const newId = () => nanoid(10);
