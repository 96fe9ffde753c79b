<x-outside :title="$status">
    @switch($status)
        @case(404) <p>There is nothing at this address.</p> @break
        @case(419) <p>This page had been open for too long. Go back and try again.</p> @break
        @case(429) <p>Too many tries. Wait a minute, then try again.</p> @break
        @default <p>That did not work ({{ $status }}).</p>
    @endswitch
    <p><a href="/">Go to the desk</a></p>
</x-outside>
