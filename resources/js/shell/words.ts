import type { Value } from '@/ui/value';

export const WORDS = {
    title: 'Trading desk',
    summary: 'Summary of the day',
    linesMissed: (lines: Value) => `${lines} lines were missed: the journal has them.`,
    noAccount: 'You have no account yet.',
    couldNotOpen: 'The desk could not be opened:',
    plansOpening: 'The exit plans are opening…',
    engineAway: 'The engine is away. Your stops rest at the venue; the desk comes back by itself.',
    closesIn: (code: Value, minutes: number, lots: number, orders: number, others: number) =>
        `${code} closes in ${minutes} min: ${lots === 0 ? 'flat' : `${lots > 0 ? 'long' : 'short'} ${Math.abs(lots)}`}, ${orders} working ${orders === 1 ? 'order' : 'orders'}${others > 0 ? ` · ${others} more` : ''}`,
    feedStale: 'The feed is stale: what you see is old. Clicks send nothing until it is live.',
    engineForeign: 'This page does not match the engine: reload the page. Your stops rest at the venue.',
    isTied: (id: Value, order: Value) => `Order ${id} is tied to order ${order}.`,
    removingStopLeaves: (lots: Value) => `Cancelling this stop leaves ${lots} unprotected.`,
    stopsSleep: (code: Value, shut: Value) =>
        `${code} is ${shut}. Stops sleep and act on the first trade; a ticket can hold an order until then.`,
    signedOut: (what: Value) => `You are signed out. Stops and orders work on at the venue, and drafts stay here. ${what}`,
    signInElsewhere: 'Sign in in a new window',
    notSignedInYet: 'This browser is not signed in yet.',
    checking: '. Checking whether it arrived; it is not sent twice.',
    noPrice: 'Not sent: there is no price to send it at.',
    feedNotLive: 'the feed is not live',
    notUsedFor: (idle: Value) => `it was not used for ${idle} minutes`,
};
