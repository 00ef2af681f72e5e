@php
  $held = count(array_filter($rows, fn($r) => $r['good']));
@endphp
<p class="pad">
  @mark($held === count($rows) ? 'ok' : 'warn')
  <b>{{ $server->name }}</b>
  @if ($held === count($rows))
    believes what is right, and nothing of what is wrong.
  @else
    is right about {{ $held }} of {{ count($rows) }} names: whoever asks it takes forged answers for true.
  @endif
</p>
<x-table label="Names that are wrong on purpose">
  <thead>
    <tr>
      <th>Name</th>
      <th>What is wrong with it</th>
      <th>{{ $server->name }} says</th>
      <th>Why</th>
    </tr>
  </thead>
  <tbody>
    @foreach ($rows as $r)
      <tr>
        <td class="name mono">{{ $r['name'] }}</td>
        <td class="wrap">{{ $r['wrong'] === '' ? 'nothing' : $r['wrong'] }}</td>
        <td>
          @mark($r['good'] ? 'ok' : 'stop')
          {{ $r['said'] }}
        </td>
        <td class="wrap">{{ $r['why'] }}</td>
      </tr>
    @endforeach
  </tbody>
</x-table>
