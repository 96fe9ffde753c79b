import { type ComponentType, lazy, type ReactNode, Suspense } from 'react';
import { Renewed } from './Renewed';

/** Those that nobody has opened yet. */
const loads: (() => Promise<unknown>)[] = [];

/**
 * A part of the page that is fetched apart, so that the first ladder does not wait for it. In place of what cannot be fetched any more stands
 * that the server has a newer page.
 */
export function later<Props extends object>(load: () => Promise<ComponentType<Props>>, waits: ReactNode = null): ComponentType<Props> {
    loads.push(load);
    const Part = lazy(() =>
        load().then(
            (part) => ({ default: part }),
            () => ({ default: Renewed as ComponentType<Props> }),
        ),
    );
    return function Later(props: Props) {
        return (
            <Suspense fallback={waits}>
                <Part {...props} />
            </Suspense>
        );
    };
}

/** Fetches all of them, once there is time: a server that goes away later takes no part of the page along. */
export function fetchLater(): void {
    for (const load of loads.splice(0)) load().catch(() => undefined);
}
