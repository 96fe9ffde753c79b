import { WORDS } from './words';

/** In place of what is fetched later, which is gone once the server has a newer build. */
export function Renewed() {
    return (
        <p className="p-16 text-soft" role="alert">
            {WORDS.newerPage}{' '}
            <button type="button" onClick={() => location.reload()}>
                Load it
            </button>
        </p>
    );
}
