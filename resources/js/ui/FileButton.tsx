import { BUTTON } from './looks';

interface Props {
    label: string;
    /** of file names, as an input takes it */
    accept: string;
    name: string;
    title?: string;
    take: (file: File) => void;
}

/** A button that asks for a file; the same file can be chosen again. */
export function FileButton({ label, accept, name, title, take }: Props) {
    return (
        <label className={BUTTON.small} title={title}>
            {label}
            <input
                type="file"
                accept={accept}
                className="sr-only"
                data-name={name}
                onChange={(event) => {
                    const file = event.target.files?.[0];
                    if (file) take(file);
                    event.target.value = '';
                }}
            />
        </label>
    );
}
