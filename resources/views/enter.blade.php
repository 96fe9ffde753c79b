<x-outside title="Enter">
    <p>This link opens your desk, once.</p>
    <form class="mt-18 flex flex-col gap-10" method="post" action="/enter/{{ $token }}">
        <button class="cursor-pointer rounded-card border border-ink px-12 py-4 bg-ink text-raised" autofocus>Open the desk</button>
    </form>
</x-outside>
