/** What somebody typed before the code was there. */
export interface Early {
  readonly name: string;
  readonly passphrase: string;
  /** The field they are in. */
  readonly at: 'name' | 'passphrase' | null;
  /** They pressed the key already. */
  readonly submitted: boolean;
}

const valueOf = (id: string): string => (document.getElementById(id) as HTMLInputElement | null)?.value ?? '';

/** Takes over the form of the page itself (`public/index.html`), and takes the form away; null where it is gone already. */
export function takeEarly(): Early | null {
  const page = document.getElementById('early');
  if (!page) return null;
  const at = document.activeElement?.id;
  const early: Early = {
    name: valueOf('early-name'),
    passphrase: valueOf('early-passphrase'),
    at: at === 'early-name' ? 'name' : at === 'early-passphrase' ? 'passphrase' : null,
    submitted: document.getElementById('early-form')?.dataset['submitted'] === '1',
  };
  page.remove();
  document.documentElement.classList.remove('early');
  return early;
}

/** Tells the next opening of the page whether its form is needed. */
export function rememberSignedIn(isIn: boolean): void {
  try {
    if (isIn) localStorage.setItem('signed-in', '1');
    else localStorage.removeItem('signed-in');
  } catch {
    // Where nothing is kept the form stands until the code is there.
  }
}
