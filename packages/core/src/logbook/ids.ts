import canonicalize from 'canonicalize';
import { v5 } from 'uuid';

/** A tagged subject's id: UUIDv5(workshop, type and tag), so that two phones that scan one tag offline mean the same thing. */
export function taggedId(workshop: string, type: 'pack' | 'notebook' | 'place', tag: string): string {
  return v5(`${type}:${normalTag(tag)}`, workshop);
}

/** Tags compare without case, spaces at the ends, and inner runs of spaces. */
export const normalTag = (tag: string): string => tag.trim().replace(/\s+/g, ' ').toUpperCase();

/** Makers and models compare without case and spaces. */
export const modelKey = (maker: string, model: string): string => `${maker} ${model}`.trim().toLowerCase().replace(/\s+/g, ' ');

/** Canonical JSON (RFC 8785): the same value has one text. */
export function canonical(value: unknown): string {
  return canonicalize(value) as string;
}
