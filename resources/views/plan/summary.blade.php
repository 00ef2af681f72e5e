<x-layout title="Summaries" verb="plan">
  <header class="title">
    <h1>Summaries</h1>
    <span class="soft">the fewest prefixes that cover what you choose: for routes and filters</span>
  </header>
  <form class="panel bar-line" action="{{ at('plan.summary') }}">
    <div class="field"><span><label for="site">Site, with all inside it</label></span>
      <select id="site" name="site">
        <option value="">any</option>
        @foreach ($choices->sites() as $id => $n)
          <option value="{{ $id }}" @selected(request('site') === $id)>{{ $n }}</option>
        @endforeach
      </select>
    </div>
    @if ($choices->tenants() !== [])
      <div class="field"><span><label for="tenant">or tenant</label></span>
        <select id="tenant" name="tenant">
          <option value="">any</option>
          @foreach ($choices->tenants() as $id => $n)
            <option value="{{ $id }}" @selected(request('tenant') === $id)>{{ $n }}</option>
          @endforeach
        </select>
      </div>
    @endif
    @if ($tags !== [])
      <div class="field"><span><label for="tag">or tag</label></span>
        <select id="tag" name="tag">
          <option value="">any</option>
          @foreach ($tags as $t)
            <option @selected(request('tag') === $t)>{{ $t }}</option>
          @endforeach
        </select>
      </div>
    @endif
    <div class="field"><span><label for="stage">Stage</label></span>
      <select id="stage" name="stage">
        <option value="">all</option>
        @foreach (\App\Models\Stage::values() as $s)
          <option @selected(request('stage') === $s)>{{ $s }}</option>
        @endforeach
      </select>
    </div>
    <div class="field"><span><label for="tolerance">May cover more, %</label></span><input id="tolerance" name="tolerance" class="num"
        size="6" inputmode="decimal" value="{{ rtrim(rtrim(number_format($tolerance, 1, '.', ''), '0'), '.') }}"></div>
    <button class="btn main" data-key="main">Summarise <kbd>Ctrl Enter</kbd></button>
  </form>
  @if ($summary)
    <div class="split two">
      <section class="panel">
        <header>
          <h2>{{ $what }}</h2>
          <span class="soft">{{ number_format($prefixes->count()) }} subnets and pools; {{ count($exact) }} exactly,
            {{ count($summary->prefixes) }} with
            @php
              $more = $summary->surplus > 0 ? ', ' . round(100 * $summary->surplus, 1) . ' % more covered' : '';
            @endphp
            {{ $tolerance > 0 ? rtrim(rtrim(number_format($tolerance, 1), '0'), '.') . ' % allowed' : 'nothing more covered' }}{{ $more }}
          </span>
        </header>
        <x-table label="Summary">
          <thead>
            <tr>
              <th>Prefix</th>
              <th>Mask</th>
              <th>Wildcard</th>
              <th class="num">Subnets in it</th>
            </tr>
          </thead>
          <tbody>
            @foreach (array_slice($summary->prefixes, 0, 500) as $s)
              <tr>
                <td class="mono"><a href="{{ at('plan.calculator') }}?p={{ urlencode((string) $s) }}">{{ $s }}</a></td>
                <td class="mono">{{ $s->family()->value === 4 ? $s->mask() : '' }}</td>
                <td class="mono">{{ $s->family()->value === 4 ? $s->wildcard() : '' }}</td>
                <td class="num">{{ $prefixes->filter(fn($p) => $s->contains($p->prefix()))->count() }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
      <aside class="side">
        <section class="panel">
          <header>
            <h2>As text</h2>
          </header>
          <div class="pad field"><label class="sr" for="text">Prefixes, one a line</label>
            <textarea id="text" class="mono" rows="{{ min(24, max(4, count($summary->prefixes))) }}" readonly>{{ $text }}</textarea>
          </div>
        </section>
      </aside>
    </div>
  @else
    <div class="empty">
      <h3>{{ request()->query() === [] ? 'Choose a site, a tenant or a tag' : 'Nothing is planned there' }}</h3>
      <p class="soft">A tolerance lets neighbouring prefixes join when little else lies between them.</p>
    </div>
  @endif
</x-layout>
