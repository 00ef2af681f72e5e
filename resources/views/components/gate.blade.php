@props(['title'])
<!doctype html>
<html lang="en" data-watch="paper">

<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <title>{{ $title }} | Harbor Post</title>
  <link rel="icon" href="/mark.svg" type="image/svg+xml">@vite(['resources/css/app.css', 'resources/js/app.js'])
</head>

<body>
  @include('parts.marks')
  <div class="gate">
    <main>{{ $slot }}</main>
    <div class="sea" aria-hidden="true"><svg>
        <rect class="waves" width="100%" height="100%" />
      </svg></div>
  </div>
</body>

</html>
