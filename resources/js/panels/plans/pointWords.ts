import type { Contract, PlanStudy } from '@/api/client';
import { writeExact } from '@/model/prices';
import { WORDS } from './words';

type Point = NonNullable<PlanStudy['portions'][number]['stop']>;

/** What PHP made of a distance: ticks, price and money. */
export function pointWords(point: Point | null | undefined, contract: Contract, unrounded?: string | null): string {
    if (!point) return '';
    return WORDS.point(unrounded ?? '', Math.abs(point.ticks), point.price, writeExact(point.money, contract.minor_unit));
}
