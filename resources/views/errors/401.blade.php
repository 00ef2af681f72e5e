@include('errors.page', [
    'code' => 401,
    'head' => 'Sign in first',
    'says' => 'This page is for people who are signed in.',
    'to' => at('login'),
    'label' => 'Sign in',
])
