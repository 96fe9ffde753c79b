<x-outside title="Sign in">
        <p>A price ladder that protects and works your position by itself.</p>
    @if ($fault !== null)
        <p class="mt-12 bg-amber px-8 py-6 text-on-amber" role="alert" data-part="fault">{{ $fault }}</p>
    @endif
    <form class="mt-18 flex flex-col gap-10" method="post" action="/sign-in">
        <label class="grid gap-2 text-usual">E-mail <input class="rounded-card border border-soft bg-field px-8 py-6 text-ink" name="email" type="text" autocomplete="username" required value="{{ $email }}"></label>
        <label class="grid gap-2 text-usual">Password <input class="rounded-card border border-soft bg-field px-8 py-6 text-ink" name="password" type="password" autocomplete="current-password" required></label>
        <button class="cursor-pointer rounded-card border border-ink px-12 py-4 bg-ink text-raised">Sign in</button>
    </form>
    @if ($demo)
        <form class="mt-18 flex flex-col gap-10" method="post" action="/demo">
                <p>No account yet? Kestrel Bay is a practice market with invented contracts. Nothing in it is real.</p>
            <button class="cursor-pointer rounded-card border border-ink px-12 py-4 bg-raised text-ink">Enter the demo desk</button>
        </form>
    @endif
</x-outside>
