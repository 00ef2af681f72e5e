<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('server_states', function (Blueprint $t): void {
            // What the server gave to go on with, of which plan it was, and when all of them were read last.
            $t->string('leases_cursor', 200)->nullable();
            $t->char('leases_plan', 64)->charset('ascii')->nullable();
            $t->dateTime('leases_whole_at')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('server_states', fn (Blueprint $t) => $t->dropColumn(['leases_cursor', 'leases_plan', 'leases_whole_at']));
    }
};
