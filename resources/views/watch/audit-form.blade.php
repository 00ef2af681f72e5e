@php
  $same = $audit && $audit->kind === $kind;
@endphp
<x-layout title="Make an audit" verb="watch" work="audit" does="the audit">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('watch.audits') }}">Audits</a></li>
      <li aria-current="page">{{ $audit->name ?? 'Make an audit' }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $audit ? 'Change an audit' : 'Make an audit' }}</h1>
    <span class="soft">tried while you choose: What follows says how many fail now</span>
  </header>
  <div class="split two">
    <section class="panel pad">
      @include('watch.rows-of', ['form' => 'audit', 'row' => $audit, 'page' => at('watch.audits.write'), 'label' => 'Of each'])
      <x-act id="audit" action="keep-audit" :seen="$audit ? [$audit->id => $audit->version] : []">
        @include('watch.called', ['form' => 'audit', 'row' => $audit, 'example' => 'Live subnets have a gateway', 'where' => 'At the site, with all in it'])
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
        <x-field form="audit" name="atEdit" label="When somebody edits what would fail" :options="\App\Models\AtEdit::choices()"
          :value="$audit?->at_edit->value ?? 'off'" />
        <x-field form="audit" name="explanation" label="Why, and how it is mended" rows="2" :value="$audit->explanation ?? ''" />
      </x-act>
    </section>
    <aside class="by-form">
      <x-follows-slot form="audit" />
    </aside>
  </div>
</x-layout>
