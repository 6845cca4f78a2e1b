"""Every address of the application."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import include, path

from cambrel.site import views

urlpatterns = [
    path("", include("cambrel.bench.urls")),
    path("", include("cambrel.owners.urls")),
    path("", include("cambrel.shelf.urls")),
    path("", include("cambrel.match.urls")),
    path("words/", views.words, name="words"),
    path("words/<slug:slug>/", views.word, name="word"),
    path("register/", views.register, name="register"),
    path("sign-in/", LoginView.as_view(template_name="site/sign_in.html"), name="sign-in"),
    path("sign-out/", LogoutView.as_view(), name="sign-out"),
]
handler400 = "cambrel.site.views.bad_request"
handler404 = "cambrel.site.views.not_found"
handler500 = "cambrel.site.views.broken"
