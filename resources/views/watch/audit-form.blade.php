@php
  $same = $audit && $audit->kind === $kind;
@endphp
<x-layout title="Make an audit" verb="watch" work="audit" does="the audit">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="/watch/audits">Audits</a></li>
      <li aria-current="page">{{ $audit->name ?? 'Make an audit' }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $audit ? 'Change an audit' : 'Make an audit' }}</h1>
    <span class="soft">tried while you choose: What follows says how many fail now</span>
  </header>
  <div class="split two">
    <section class="panel pad">
      <form class="bar-line tight" action="/watch/audits/write">
        @if ($audit)
          <input type="hidden" name="audit" value="{{ $audit->id }}">
        @endif
        <div class="field"><span><label for="kind">Of each</label></span>
          <select id="kind" name="kind">
            @foreach ($kinds as $key => $text)
              <option value="{{ $key }}" @selected($kind->value === $key)>{{ $text }}</option>
            @endforeach
          </select>
        </div>
        <button class="btn small">Choose</button>
      </form>
      <x-act id="audit" action="keep-audit" :seen="$audit ? [$audit->id => $audit->version] : []">
        <input type="hidden" name="kind" value="{{ $kind->value }}">
        @if ($audit)
          <input type="hidden" name="id" value="{{ $audit->id }}">
        @endif
        <x-field form="audit" name="name" label="Called" :value="$audit->name ?? ''" placeholder="Live subnets have a gateway" />
        @if ($kind->hasSite())
          <x-field form="audit" name="site" label="At the site, with all in it" pick="site" none="everywhere" blank="everywhere"
            :value="$audit->site_id ?? ''" :shown="$site->name ?? ''" />
        @endif
        @include('watch.choices', [
            'form' => 'audit',
            'name' => 'where',
            'legend' => 'Whose',
            'any' => 'all of them',
            'chosen' => $same ? $audit->where : [],
        ])
        @include('watch.choices', [
            'form' => 'audit',
            'name' => 'must',
            'legend' => 'Must be so',
            'any' => 'choose',
            'chosen' => $same ? $audit->must : [['fact' => '', 'test' => 'set', 'value' => '']],
        ])
        <div class="pair">
          <x-field form="audit" name="severity" label="Severity" :options="['error' => 'error', 'warning' => 'warning', 'note' => 'note']"
            :value="$audit?->severity->value ?? 'warning'" />
          <x-field form="audit" name="off" label="Run" :options="['0' => 'every night', '1' => 'off']" :value="$audit && !$audit->active ? '1' : '0'" />
        </div>
        <x-field form="audit" name="explanation" label="Why, and how it is mended" rows="2" :value="$audit->explanation ?? ''" />
      </x-act>
    </section>
    <aside class="by-form">
      <x-follows-slot form="audit" />
    </aside>
  </div>
</x-layout>
