import { defineStore } from 'pinia';
import type { TerminalFace, TerminalPress } from '../../devices/terminal/face/face.ts';
import { read, write } from '../net/api.ts';

/** The face of a terminal that ships with the application: what it shows, and what is pressed on it. */
export const useTerminalFaceStore = defineStore('terminalFace', () => ({
  known: () => read<{ serial: string; name: string }[]>('/devices/terminals'),
  look: (serial: string) => read<TerminalFace>(`/devices/terminals/${serial}`),
  press: (serial: string, what: TerminalPress) =>
    write<TerminalFace>('POST', `/devices/terminals/${serial}`, what),
  unpack: () => write<TerminalFace>('POST', '/devices/terminals'),
}));
