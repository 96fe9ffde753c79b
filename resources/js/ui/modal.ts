import { documents } from './windows';

/** Whether a sheet or a question stands over everything: behind it no key does anything but those of the panic. */
export const isModalOpen = (): boolean => documents().some((one) => one.querySelector('[data-modal]') !== null);
