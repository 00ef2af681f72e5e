<?php

declare(strict_types=1);

/*
 * Console commands for ./hpost: exit status 2 for an unknown command, option or missing argument, and negative numbers or
 * hyphens in values are values.
 */

use Symfony\Component\Console\Exception\ExceptionInterface;
use Symfony\Component\Console\Input\ArgvInput;
use Symfony\Component\Console\Output\ConsoleOutput;

define('LARAVEL_START', microtime(true));
require __DIR__.'/../vendor/autoload.php';
$app = require __DIR__.'/../bootstrap/app.php';
$kernel = $app->make(Illuminate\Contracts\Console\Kernel::class);
$kernel->bootstrap();

$console = new Illuminate\Console\Application($app, $app['events'], 'Harbor Post');
$console->setCatchExceptions(false);
foreach ($kernel->all() as $command) {
    $console->add($command);
}
if (! $console->has($argv[1] ?? 'list')) {
    fwrite(STDERR, "\"$argv[1]\" is not defined; \"./hpost list\" names the commands.\n");
    exit(2);
}
try {
    $status = $console->run(new ArgvInput, new ConsoleOutput);
} catch (ExceptionInterface $e) {
    fwrite(STDERR, $e->getMessage()."\n");
    $status = 2;
} catch (Illuminate\Database\QueryException $e) {
    fwrite(STDERR, "The database does not answer as it should; does \"./hpost demo\" run? ({$e->getCode()})\n");
    report($e);
    $status = 1;
}
exit($status);
