/** Whether a sheet or a question stands over everything: behind it no key does anything but those of the panic. */
export const isModalOpen = (): boolean => document.querySelector('[data-modal]') !== null;
