@include('errors.page', [
    'code' => 503,
    'head' => $database ?? false ? 'The database is not available' : 'Not available just now',
    'says' =>
        $database ?? false
            ? 'Nothing of what you sent was written. It is being started again; try in a few seconds.'
            : 'Harbor Post is being worked on. Try again in a minute.',
    'to' => request()->isMethodSafe() ? request()->fullUrl() : '/',
    'label' => 'Try again',
])
