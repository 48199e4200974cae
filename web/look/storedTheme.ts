const KEY = 'mondrel.theme';

/** The look that was chosen on this till; `system` follows the machine. */
export function storedTheme(): 'light' | 'dark' | 'system' {
  const stored = localStorage.getItem(KEY);
  return stored === 'light' || stored === 'dark' ? stored : 'system';
}

export function storeTheme(name: string): void {
  localStorage.setItem(KEY, name);
}
