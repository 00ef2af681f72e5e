@php
  $words = [
      'there' => ['ok', 'stands in the name service'],
      'waits' => ['wait', 'waits to be written'],
      'ends' => ['turn', 'is taken out'],
      'conflict' => ['stop', "is another's"],
  ];
@endphp
<x-layout :title="'Names of ' . $scope->name" verb="lease">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('lease') }}">Scopes</a></li>
      <li><a href="{{ at('lease.scope', $scope->id) }}">{{ $scope->name }}</a></li>
      <li aria-current="page">Names</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Names of {{ $scope->name }}</h1>
    <span class="soft">as its servers tell it now; {{ $scope->name_who?->title() ?? 'nobody writes names' }}</span>
  </header>
  @foreach ($problems as $line)
    <p class="notice bad" role="status">@mark('stop')<span class="grow">{{ $line }}</span></p>
  @endforeach
  <section class="panel">
    @if ($rows === [])
      <x-empty title="No names">A client is named with its first lease or renewal after the scope was shipped.</x-empty>
    @else
      <x-table label="Names" data-worktable>
        <thead>
          <tr>
            <th>Name</th>
            <th>Address</th>
            <th>Server</th>
            <th>State</th>
            <th>Why</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($rows as $r)
            <tr>
              <td class="mono">{{ rtrim($r['name'], '.') }}</td>
              <td class="mono">{{ $r['address'] }}</td>
              <td>{{ $r['server'] }}</td>
              <td>
                @mark($words[$r['state']][0] ?? 'wait')
                {{ $words[$r['state']][1] ?? $r['state'] }}
              </td>
              <td class="wrap">{{ $r['why'] }}</td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
    @endif
  </section>
</x-layout>
