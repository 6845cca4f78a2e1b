"""Every address of the application."""

from django.urls import include, path

from cambrel.site.views import accounts, pages

urlpatterns = [
    path("", include("cambrel.bench.urls")),
    path("", include("cambrel.pictures.urls")),
    path("", include("cambrel.owners.urls")),
    path("", include("cambrel.conventions.urls")),
    path("", include("cambrel.formats.urls")),
    path("", include("cambrel.shelf.urls")),
    path("", include("cambrel.match.urls")),
    path("", include("cambrel.ask.urls")),
    path("", include("cambrel.choose.urls")),
    path("", include("cambrel.field.urls")),
    path("", include("cambrel.learn.urls")),
    path("words/", pages.words, name="words"),
    path("words/<slug:slug>/", pages.word, name="word"),
    path("health/", pages.health, name="health"),
    path("register/", accounts.register, name="register"),
    path("sign-in/", accounts.SignIn.as_view(), name="sign-in"),
    path("sign-out/", accounts.SignOut.as_view(), name="sign-out"),
    path("account/", accounts.account, name="account"),
    path("account/password/", accounts.password, name="password"),
    path("account/leave/", accounts.leave, name="leave"),
]
handler400 = "cambrel.site.views.pages.bad_request"
handler403 = "cambrel.site.views.pages.forbidden"
handler404 = "cambrel.site.views.pages.not_found"
handler500 = "cambrel.site.views.pages.broken"
