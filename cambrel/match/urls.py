from django.urls import path

from cambrel.match import views

app_name = "match"
urlpatterns = [
    path("match/", views.match, name="match"),
    path("match/answers.csv", views.match_csv, name="csv"),
    path("match/answers.svg", views.match_svg, name="svg"),
    path("match/lens/<int:pk>/", views.of_lens, name="lens"),
    path("match/keep/", views.keep, name="keep"),
    path("match/kept/<int:pk>/delete/", views.forget, name="forget"),
    path("fit/", views.fit, name="fit"),
    path("fit/matrix/", views.matrix, name="matrix"),
    path("fit/upgrade/", views.upgrades, name="upgrade"),
]
