<!doctype html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>{{ $report->name }}</title>
  <style>
    body { font-size: 9px; color: #13263a; }
    h1 { font-size: 15px; margin: 0 0 2px; }
    p { margin: 0 0 8px; color: #43566a; }
    table { width: 100%; border-collapse: collapse; table-layout: fixed; }
    th { text-align: left; border-bottom: 1px solid #13263a; padding: 3px 4px; }
    td { border-bottom: 1px solid #cfd8d2; padding: 2px 4px; word-wrap: break-word; }
    .num { text-align: right; }
  </style>
</head>
<body>
  <h1>{{ $report->name }}</h1>
  <p>{{ number_format($count) }} {{ $report->kind->plural() }}, as {{ $reader }} may see them, {{ now()->format('j M Y, H:i') }} UTC.
    {{ $left > 0 ? 'The last ' . number_format($left) . ' are not on paper: they are in the CSV.' : '' }}</p>
  @forelse ($parts as $rows)
    <table>
      <thead>
        <tr>
          @foreach ($table->columns as $fact)
            <th class="{{ $fact->type->isNumber() ? 'num' : '' }}">{{ $fact->label }}</th>
          @endforeach
        </tr>
      </thead>
      <tbody>
        @foreach ($rows as $row)
          <tr>
            @foreach ($row['cells'] as $key => $cell)
              <td class="{{ $table->columns[$key]->type->isNumber() ? 'num' : '' }}">{{ $cell }}</td>
            @endforeach
          </tr>
        @endforeach
      </tbody>
    </table>
  @empty
    <p>Nothing is in it.</p>
  @endforelse
</body>
</html>
