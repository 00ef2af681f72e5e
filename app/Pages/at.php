<?php

declare(strict_types=1);

use App\Pages\Pages;

if (! function_exists('at')) {
    /**
     * The address of a page of ours by its name in routes/, without the host: at('plan.prefix', $id). What a page is asked is put behind
     * it by whoever links to it.
     */
    function at(string $page, string|int ...$parameters): string
    {
        return Pages::address($page, $parameters);
    }
}
