<x-outside title="Fault">
    <p>Something is wrong on our side; it was logged. Your stops rest at the venue all the same.</p>
    <p><a href="/">Go to the desk</a></p>
</x-outside>
