import type { Owner } from '@gavrel/contract';
import { useEffect, useState } from 'react';
import { api } from '../device/api';
import { sideItem } from '../device/store';
import { useAppSelector } from '../state';

/** An owner's or addressee's name: what waits on this device first, else from the server's table. Null: not to be had now. */
export function useOwner(id: string | null): Owner | null {
  const [owner, setOwner] = useState<Owner | null>(null);
  const version = useAppSelector((s) => s.logbook.version);
  useEffect(() => {
    let current = true;
    if (id === null) return;
    void (async () => {
      const here = await sideItem(`owners/${id}`);
      const found = here
        ? { id, ...(JSON.parse(here.body as string) as Omit<Owner, 'id'>) }
        : await api<Owner>('GET', `/owners/${id}`).catch(() => null);
      if (current) setOwner(found);
    })();
    return () => {
      current = false;
    };
  }, [id, version]);
  return owner;
}
