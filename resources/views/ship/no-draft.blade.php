<x-layout title="My draft" verb="ship" work="begin" does="begin a draft">
  @include('ship.draft-path', ['here' => 'My draft'])
  <header class="title">
    <h1>My draft</h1>
    <span class="end row"><a class="btn small" href="{{ at('ship.drafts') }}">All drafts</a></span>
  </header>
  <section class="panel">
    <x-empty title="Your edits go to no draft yet">Every edit can be added to a draft instead of being committed: carve a subnet, place its hosts, make
      the scope, and commit them as one. The next one that you add begins a draft.
      @if ($others > 0)
        You work on {{ $others }} {{ Str::plural('draft', $others) }}: take one of them up under <a href="{{ at('ship.drafts') }}">All drafts</a>.
      @endif
    </x-empty>
    @include('ship.begin')
  </section>
</x-layout>
