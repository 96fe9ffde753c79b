import clsx from 'clsx';
import { useState } from 'react';
import { Button } from './Button';
import { Fault } from './Fault';
import { FileButton } from './FileButton';
import { exportJson, importJson } from './files';

interface Props {
    name: string;
    /** as it is called: "Export keys" */
    what: string;
    document: object;
    /** gives back what is wrong with what was imported, empty where nothing */
    take: (document: unknown) => Promise<string>;
    /** how it takes its place */
    className?: string;
}

/** Export to a file, import from one; a refusal is said and changes nothing. */
export function FileRow({ name, what, document, take, className }: Props) {
    const [fault, setFault] = useState('');
    return (
        <div className={clsx('flex items-center gap-8', className)} data-part="file-row">
            <Button tone="small" onClick={() => exportJson(`${name}.json`, document)}>
                Export {what}
            </Button>
            <FileButton
                label={`Import ${what}`}
                accept="application/json,.json"
                name={`import-${name}`}
                take={(file) => {
                    importJson(file)
                        .then(take)
                        .then(setFault)
                        .catch((error: Error) => setFault(error.message));
                }}
            />
            <Fault words={fault} />
        </div>
    );
}
