import { type Command } from './command';
export const sheet: Command = { help: '', run: async () => 0 };
