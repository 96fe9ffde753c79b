import { useState } from 'react';
import { FileButton } from './FileButton';
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
            <FileButton
                label="Import"
                accept="application/json,.json"
                name={`import-${name}`}
                take={(file) => {
                    importJson(file)
                        .then(take)
                        .then(setFault)
                        .catch((error: Error) => setFault(error.message));
                }}
            />
            {fault !== '' && (
                <span className="fault" role="alert">
                    {fault}
                </span>
            )}
        </p>
    );
}
