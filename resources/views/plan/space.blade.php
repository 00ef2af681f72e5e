<x-layout :title="$space->name" verb="plan">
  @include('plan.spaces', ['current' => $space])
  <header class="title">
    <h1>{{ $space->name }}</h1>
    <span class="soft">{{ $space->description }}</span>
  </header>
  <div class="split two">
    <div class="stack">
      @if ($tops === [])
        <section class="panel">
          <div class="empty">
            <h2>Nothing is planned in this space</h2>
            <p class="soft">Write down a top prefix first: what you hold, as a supernet. Subnets are carved from it.</p>
          </div>
        </section>
      @else
        <section class="panel">
          <header>
            <h2>Prefixes</h2>
            <span class="soft">what you may see of {{ $space->name }}</span>
          </header>
          @include('plan.rows', ['rows' => $tops, 'next' => null, 'pick' => false])
        </section>
      @endif
    </div>
    <aside class="side">
      @if (auth()->user()->does(\App\Models\Role::Planner))
        @include('plan.top-form')
        <x-follows-slot form="top" />
      @endif
    </aside>
  </div>
</x-layout>
