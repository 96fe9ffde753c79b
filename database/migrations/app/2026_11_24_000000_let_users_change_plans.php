<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A user's own version of a built-in plan stands in its place, or says that it is gone for that user. */
return new class extends Migration {
    public function up(): void
    {
        Schema::table('exit_plans', static function (Blueprint $table): void {
            $table->unsignedBigInteger('replaces')->nullable();
            $table->boolean('gone')->default(false);
        });
    }

    public function down(): void
    {
        Schema::table('exit_plans', static function (Blueprint $table): void {
            $table->dropColumn(['replaces', 'gone']);
        });
    }
};
