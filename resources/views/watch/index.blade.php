@php
  $short = fn(array $values): string => implode(
      ', ',
      array_map(
          fn(string $column, mixed $value): string => $called->column($column) . ' ' . Str::limit($called->value($column, $value), 40),
          array_keys($values),
          $values,
      ),
  );
@endphp
<x-layout title="History" verb="watch">
  <header class="title">
    <h1>History</h1>
    <span class="soft">
      @if ($object)
        of {{ $object->object_type }} <span class="mono">{{ $object->title }}</span> and of what belongs to it, newest first
      @else
        every row that was written, newest first, with who, when, before and after
      @endif
    </span>
    @if ($back)
      <a class="btn small end" href="{{ at('watch.back') }}?act={{ $back }}">Take it back</a>
    @endif
    @if (request()->hasAny(['object', 'act']))
      <a class="end" href="{{ at('watch') }}">Show all</a>
    @endif
  </header>
  <section class="panel">
    @if ($rows->isEmpty())
      <div class="empty">
        <h3>Nothing was written {{ request()->hasAny(['object', 'act']) ? 'of this' : 'yet' }}</h3>
      </div>
    @else
      <x-table label="History" data-worktable :data-paged="(bool) $next || request()->hasAny(['after', 'before'])">
        <thead>
          <tr>
            <th>When</th>
            <th>Who</th>
            <th>Act</th>
            <th>Object</th>
            <th>Before</th>
            <th>After</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($rows as $r)
            <tr>
              <td title="{{ $r->at }}">{{ Carbon\CarbonImmutable::parse($r->at)->format('j M H:i:s') }}</td>
              <td>{{ $people[$r->person_id] ?? 'Harbor Post' }}
                @if ($r->via)
                  <br><span class="hint">{{ $r->via }}</span>
                @endif
              </td>
              <td>
                <a href="{{ at('watch') }}?act={{ $r->act_id }}">{{ str_replace('-', ' ', $r->action) }}</a>
                @if ($r->reason)
                  <br><span class="soft wrap">{{ $r->reason }}</span>
                @endif
              </td>
              <td class="wrap"><a href="{{ at('watch') }}?object={{ $r->object_id }}">{{ $r->object_type }}</a>
                <span class="mono">{{ $r->title }}</span>
              </td>
              <td class="wrap mono soft">{{ $r->op === 'removed' ? 'was there' : $short($r->before) }}</td>
              <td class="wrap mono">{{ $r->op === 'changed' ? $short($r->after) : $r->op }}</td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
      @if ($next)
        <p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['before' => $next]) }}">Further back</a></p>
      @endif
    @endif
  </section>
</x-layout>
