<x-outside title="Enter">
    <p>This link opens your desk, once.</p>
    <form method="post" action="/enter/{{ $token }}">
        <button class="primary" autofocus>Open the desk</button>
    </form>
</x-outside>
