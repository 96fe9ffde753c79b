import { useState } from 'react';
import { exportJson, importJson } from './files';

interface Props {
    name: string;
    document: object;
    /** gives back what is wrong with what was imported, empty where nothing */
    take: (document: unknown) => Promise<string>;
}

/** Export to a file, import from one; a refusal is said and changes nothing. */
export function FileRow({ name, document, take }: Props) {
    const [fault, setFault] = useState('');
    return (
        <p className="file-row">
            <button type="button" className="order-button small" onClick={() => exportJson(`${name}.json`, document)}>
                Export
            </button>
            <label className="order-button small">
                Import
                <input
                    type="file"
                    accept="application/json,.json"
                    className="sr-only"
                    data-name={`import-${name}`}
                    onChange={(event) => {
                        const file = event.target.files?.[0];
                        event.target.value = '';
                        if (!file) return;
                        importJson(file)
                            .then(take)
                            .then(setFault)
                            .catch((error: Error) => setFault(error.message));
                    }}
                />
            </label>
            {fault !== '' && (
                <span className="fault" role="alert">
                    {fault}
                </span>
            )}
        </p>
    );
}
