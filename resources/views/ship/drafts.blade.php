<x-layout title="Drafts" verb="ship" work="begin" does="begin a draft">
  <nav aria-label="Above">
    <ol class="path">
      @unless (auth()->user()->isBound())
        <li><a href="{{ at('ship') }}">Ship</a></li>
      @endunless
      <li aria-current="page">Drafts</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Drafts</h1>
    <span class="soft">changes written apart from the truth, and read by others</span>
    <span class="end row">
      <a class="btn small" href="{{ at('ship.draft.mine') }}">My draft</a>
      @unless (auth()->user()->isBound())
        <a class="btn small" href="{{ at('ship.rules') }}">Rules of agreement</a>
      @endunless
    </span>
  </header>
  @if ($approver)
    <section class="panel">
      <header>
        <h2>Waiting for you</h2>
        <span class="soft">oldest first</span>
      </header>
      @if ($waiting->isEmpty())
        <x-empty title="Nothing waits for you">Drafts of others stand here when their authors submit them.</x-empty>
      @else
        @include('ship.drafts-table', ['drafts' => $waiting, 'label' => 'Waiting for you'])
      @endif
    </section>
  @endif
  <section class="panel">
    <header>
      <h2>In your hands</h2>
      <span class="soft">your own, and those that colleagues share with you</span>
    </header>
    @if ($own->isEmpty())
      <x-empty title="You have no draft">An edit goes to a draft by its main button, and the draft is committed as one.</x-empty>
    @else
      @include('ship.drafts-table', ['drafts' => $own, 'label' => 'In your hands'])
    @endif
    @include('ship.begin')
  </section>
  @if ($others->isNotEmpty())
    <section class="panel">
      <header>
        <h2>Submitted by others</h2>
      </header>
      @include('ship.drafts-table', ['drafts' => $others, 'label' => 'Submitted by others'])
    </section>
  @endif
  @if ($decided->isNotEmpty())
    <section class="panel">
      <header>
        <h2>Ended lately</h2>
      </header>
      @include('ship.drafts-table', ['drafts' => $decided, 'label' => 'Ended lately'])
    </section>
  @endif
</x-layout>
